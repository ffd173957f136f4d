import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { closeVisits, closeWish } from '$lib/server/visits/closing';
import type { RequestHandler } from './$types';

/** Closes visits, or opens them again. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => closeVisits(signedIn(locals), keyOf(request), await wishOf(request, closeWish)));
