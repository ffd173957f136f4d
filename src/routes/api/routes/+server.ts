import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { keepOwnRoute, routeWish } from '$lib/server/trays/ownPatterns';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepOwnRoute(signedIn(locals), keyOf(request), await wishOf(request, routeWish)));
