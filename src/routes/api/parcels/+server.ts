import { parcelWish, sendParcel } from '$lib/server/dispatch/parcels';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** A parcel of pictures of any visits. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => sendParcel(signedIn(locals), null, keyOf(request), await wishOf(request, parcelWish)));
