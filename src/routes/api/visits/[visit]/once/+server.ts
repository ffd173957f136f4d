import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { onceWish, patternForOnce } from '$lib/server/trays/once';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    patternForOnce(signedIn(locals), params.visit, keyOf(request), await wishOf(request, onceWish))
  );
