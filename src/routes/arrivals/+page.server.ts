import { bundles } from '$lib/server/arrivals/bundles';
import { intakesSeen } from '$lib/server/arrivals/intakes';
import { roomsSeen } from '$lib/server/clinics/rooms';
import { keptDays } from '$lib/server/clinics/settings';
import { loaded, signedIn } from '$lib/server/http/answer';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals }) =>
  loaded(async () => {
    const caller = signedIn(locals);
    return {
      bundles: await bundles(caller),
      intakes: await intakesSeen(caller),
      ...(await keptDays(caller)),
      rooms: await roomsSeen(caller)
    };
  });
