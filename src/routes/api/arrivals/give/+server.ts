import { giveArrivals, giveWish } from '$lib/server/arrivals/giving';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => giveArrivals(signedIn(locals), keyOf(request), await wishOf(request, giveWish)));
