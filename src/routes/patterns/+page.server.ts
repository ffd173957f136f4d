import { loaded, signedIn } from '$lib/server/http/answer';
import { allPatterns } from '$lib/server/trays/ownPatterns';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, depends }) => {
  depends('yonder:patterns');
  return loaded(async () => ({ patterns: await allPatterns(signedIn(locals)) }));
};
