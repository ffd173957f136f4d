import { printWish } from '$core/print/printWish';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { madePaper } from '$lib/server/http/madePaper';
import { printOut } from '$lib/server/report/printOut';
import type { RequestHandler } from './$types';

/** Pictures of the visit on sheets, as a PDF. Nothing is kept of it: asked again it is made again. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    madePaper(await printOut(signedIn(locals), params.visit, await wishOf(request, printWish)))
  );
