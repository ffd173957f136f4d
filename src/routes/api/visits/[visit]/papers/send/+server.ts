import { papersWish, sendPapers } from '$lib/server/dispatch/paperParcels';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Papers of the visit go to a mailbox or into a folder. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    sendPapers(signedIn(locals), params.visit, keyOf(request), await wishOf(request, papersWish))
  );
