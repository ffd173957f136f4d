import { loaded, signedIn } from '$lib/server/http/answer';
import { patternsFor, visitView } from '$lib/server/visits/visits';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals, params, depends }) => {
  depends(`yonder:visit:${params.visit}`);
  return loaded(async () => ({
    visit: await visitView(signedIn(locals), params.visit),
    patterns: await patternsFor(signedIn(locals), params.visit)
  }));
};
