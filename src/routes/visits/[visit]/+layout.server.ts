import { ownLooks } from '$lib/server/clinics/ownLooks';
import { rules } from '$lib/server/deidentify/rules';
import { markers } from '$lib/server/clinics/settings';
import { destinations } from '$lib/server/dispatch/destinations';
import { writtenGuides } from '$lib/server/clinics/writtenGuides';
import { loaded, signedIn } from '$lib/server/http/answer';
import { patternsFor, visitView } from '$lib/server/visits/visits';
import type { LayoutServerLoad } from './$types';

/** All that the stations need, so that going from one to another asks the server nothing. */
export const load: LayoutServerLoad = ({ locals, params }) =>
  loaded(async () => {
    const caller = signedIn(locals);
    const [visit, patterns, sizes, looks, guides, places, named] = await Promise.all([
      visitView(caller, params.visit),
      patternsFor(caller, params.visit),
      markers(caller),
      ownLooks(caller),
      writtenGuides(caller),
      destinations(caller),
      rules(caller)
    ]);
    return { visit, patterns, markers: sizes, looks, guides, destinations: places, rules: named };
  });
