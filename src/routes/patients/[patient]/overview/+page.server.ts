import { loaded, signedIn } from '$lib/server/http/answer';
import { overview } from '$lib/server/visits/overview';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params }) =>
  loaded(async () => ({ overview: await overview(signedIn(locals), params.patient) }));
