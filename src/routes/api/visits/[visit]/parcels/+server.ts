import { parcelWish, sendParcel } from '$lib/server/dispatch/parcels';
import { answered, callerOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => sendParcel(callerOf(locals), params.visit, parcelWish.parse(await request.json())));
