import { markers } from '$lib/server/clinics/settings';
import { loaded, signedIn } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
  loaded(async () => ({ markers: await markers(signedIn(locals)) }));
