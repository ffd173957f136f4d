import { sendBack, sendBackWish } from '$lib/server/arrivals/sendBack';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** What a mail brought goes back to where it came from. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => sendBack(signedIn(locals), keyOf(request), await wishOf(request, sendBackWish)));
