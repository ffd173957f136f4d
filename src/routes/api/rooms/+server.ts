import { addRoom, newRoomWish } from '$lib/server/clinics/rooms';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** A room more. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => addRoom(signedIn(locals), keyOf(request), await wishOf(request, newRoomWish)));
