import { printers } from '$lib/server/clinics/printers';
import { filmPrinters } from '$lib/server/dispatch/filmParcels';
import { loaded, signedIn } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
  loaded(async () => ({
    printers: await printers(signedIn(locals)),
    filmPrinters: await filmPrinters(signedIn(locals))
  }));
