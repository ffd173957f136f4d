import { destinations } from '$lib/server/dispatch/parcels';
import { signedIn, loaded } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
  loaded(async () => ({ destinations: await destinations(signedIn(locals)) }));
