import { arrivalWish, visitsNear, wishOfArrival } from '$lib/server/arrivals/arrivals';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Visits that it may belong to. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => ({ near: await visitsNear(signedIn(locals), params.arrival) }));

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    wishOfArrival(signedIn(locals), params.arrival, keyOf(request), await wishOf(request, arrivalWish))
  );
