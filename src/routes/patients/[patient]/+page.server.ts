import { signedIn, loaded } from '$lib/server/http/answer';
import { chart } from '$lib/server/visits/patients';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params }) =>
  loaded(async () => ({ chart: await chart(signedIn(locals), params.patient) }));
