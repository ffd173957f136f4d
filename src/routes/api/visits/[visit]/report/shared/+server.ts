import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { reportShared, sharedWish } from '$lib/server/report/visitReport';
import type { RequestHandler } from './$types';

/** Somebody takes the report out of the house. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => reportShared(signedIn(locals), params.visit, await wishOf(request, sharedWish)));
