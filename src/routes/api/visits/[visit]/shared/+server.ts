import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { paperShared, sharedWish } from '$lib/server/report/shared';
import type { RequestHandler } from './$types';

/** Somebody takes a paper of the visit out of the house. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => paperShared(signedIn(locals), params.visit, await wishOf(request, sharedWish)));
