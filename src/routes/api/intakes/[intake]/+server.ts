import { endAsked, endWish } from '$lib/server/arrivals/intakeEnd';
import { intakeLines } from '$lib/server/arrivals/intakes';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** What did not come in, with the reasons. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => ({ lines: await intakeLines(signedIn(locals), params.intake) }));

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    endAsked(signedIn(locals), params.intake, keyOf(request), await wishOf(request, endWish))
  );
