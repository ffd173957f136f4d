import { printers } from '$lib/server/clinics/printers';
import { loaded, signedIn } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
  loaded(async () => ({ printers: await printers(signedIn(locals)) }));
