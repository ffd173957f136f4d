import { loaded, signedIn } from '$lib/server/http/answer';
import { earlierWithGuides } from '$lib/server/pictures/earlierGuides';
import { reportChosen } from '$lib/server/report/visitReport';
import type { PageServerLoad } from './$types';

export const load: PageServerLoad = ({ locals, params }) =>
  loaded(async () => {
    const caller = signedIn(locals);
    const [choice, earlier] = await Promise.all([
      reportChosen(caller, params.visit),
      earlierWithGuides(caller, params.visit)
    ]);
    return { choice, earlier };
  });
