import { callerOf, loaded } from '$lib/server/http/answer';
import { visitView } from '$lib/server/visits/visits';
import type { LayoutServerLoad } from './$types';

export const load: LayoutServerLoad = ({ locals, params, depends }) => {
  depends(`yonder:visit:${params.visit}`, 'yonder:devices');
  return loaded(async () => ({ visit: await visitView(callerOf(locals), params.visit) }));
};
