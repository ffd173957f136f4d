import { parcelWish, sendParcel } from '$lib/server/dispatch/parcels';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    sendParcel(signedIn(locals), params.visit, keyOf(request), await wishOf(request, parcelWish))
  );
