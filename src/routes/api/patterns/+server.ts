import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { keepPattern, patternWish } from '$lib/server/trays/ownPatterns';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepPattern(signedIn(locals), keyOf(request), await wishOf(request, patternWish)));
