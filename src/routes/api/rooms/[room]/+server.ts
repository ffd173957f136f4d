import { changeRoom, closeRoom, roomWish } from '$lib/server/clinics/rooms';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    changeRoom(signedIn(locals), keyOf(request), params.room, await wishOf(request, roomWish))
  );

/** Nothing is taken there any more. */
export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => closeRoom(signedIn(locals), keyOf(request), params.room));
