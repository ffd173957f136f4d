import { filmWish } from '$core/print/filmWish';
import { filmsShown } from '$lib/server/dispatch/filmParcels';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { madePaper } from '$lib/server/http/madePaper';
import type { RequestHandler } from './$types';

/** Films as they will be, as a PDF. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    madePaper(await filmsShown(signedIn(locals), params.visit, await wishOf(request, filmWish)))
  );
