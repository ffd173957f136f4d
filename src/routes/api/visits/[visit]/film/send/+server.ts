import { filmSend, sendFilms } from '$lib/server/dispatch/filmParcels';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Films go to their printer. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    sendFilms(signedIn(locals), params.visit, keyOf(request), await wishOf(request, filmSend))
  );
