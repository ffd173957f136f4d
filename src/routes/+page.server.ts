import { callerOf, loaded } from '$lib/server/http/answer';
import { today } from '$lib/server/visits/today';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, depends }) => {
  depends('yonder:today');
  return loaded(async () => ({ today: await today(callerOf(locals)) }));
};
