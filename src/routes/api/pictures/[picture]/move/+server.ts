import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { movePicture, moveWish } from '$lib/server/pictures/moving';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    movePicture(signedIn(locals), params.picture, keyOf(request), await wishOf(request, moveWish))
  );
