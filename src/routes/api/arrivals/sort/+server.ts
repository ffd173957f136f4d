import { sortArrivals, sortWish } from '$lib/server/arrivals/bundles';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => sortArrivals(signedIn(locals), keyOf(request), await wishOf(request, sortWish)));
