import { letterheadOf } from '$lib/server/clinics/letterhead';
import { printLayouts } from '$lib/server/clinics/printLayouts';
import { printers } from '$lib/server/clinics/printers';
import { claimsOfVisit } from '$lib/server/dispatch/claimsTold';
import { filmPrinters } from '$lib/server/dispatch/filmParcels';
import { loaded, signedIn } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params, depends }) => {
  depends('yonder:layouts');
  return loaded(async () => {
    const caller = signedIn(locals);
    return {
      printers: await printers(caller),
      layouts: await printLayouts(caller),
      hasLogo: (await letterheadOf(caller)).logo !== null,
      filmPrinters: await filmPrinters(caller),
      claimed: await claimsOfVisit(caller, params.visit)
    };
  });
};
