import { layVeils, veilsWish } from '$lib/server/deidentify/veils';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    layVeils(signedIn(locals), params.picture, keyOf(request), await wishOf(request, veilsWish))
  );
