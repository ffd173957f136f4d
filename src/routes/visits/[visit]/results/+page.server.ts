import { loaded, signedIn } from '$lib/server/http/answer';
import { earlierWithGuides } from '$lib/server/pictures/earlierGuides';
import type { PageServerLoad } from './$types';

/** What was measured before, to tell what has changed. */
export const load: PageServerLoad = ({ locals, params }) =>
  loaded(async () => ({ earlier: await earlierWithGuides(signedIn(locals), params.visit) }));
