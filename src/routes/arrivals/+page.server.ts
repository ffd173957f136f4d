import { arrivals } from '$lib/server/arrivals/arrivals';
import { loaded, signedIn } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, depends }) => {
  depends('yonder:arrivals');
  return loaded(async () => ({ arrivals: await arrivals(signedIn(locals)) }));
};
