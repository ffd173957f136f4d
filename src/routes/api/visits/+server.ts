import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { openAsked, openWish } from '$lib/server/visits/visits';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => openAsked(signedIn(locals), keyOf(request), await wishOf(request, openWish)));
