import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { actWish, keepAct } from '$lib/server/pictures/changes';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    keepAct(signedIn(locals), params.picture, keyOf(request), await wishOf(request, actWish))
  );
