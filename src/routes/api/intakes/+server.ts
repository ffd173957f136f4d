import { beginIntake, intakeWish } from '$lib/server/arrivals/intakes';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => beginIntake(signedIn(locals), keyOf(request), await wishOf(request, intakeWish)));
