import { answered, signedIn, understood } from '$lib/server/http/answer';
import { picturesShowing, showingWish } from '$lib/server/visits/overview';
import type { RequestHandler } from './$types';

/** Pictures of some places of a patient, by their keys. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    return picturesShowing(caller, params.patient, understood(showingWish, url.searchParams.getAll('place')));
  });
