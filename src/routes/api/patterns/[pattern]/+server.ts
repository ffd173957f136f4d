import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { retirePattern, retireWish } from '$lib/server/trays/ownPatterns';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    retirePattern(signedIn(locals), keyOf(request), params.pattern, await wishOf(request, retireWish))
  );
