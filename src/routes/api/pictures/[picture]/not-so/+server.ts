import { denyAdvice, denyWish } from '$lib/server/advice/denying';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    denyAdvice(signedIn(locals), params.picture, keyOf(request), await wishOf(request, denyWish))
  );
