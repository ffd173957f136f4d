import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { categoryWish, dropCategory, keepCategory } from '$lib/server/pictures/categories';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    keepCategory(signedIn(locals), keyOf(request), params.category, await wishOf(request, categoryWish))
  );

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropCategory(signedIn(locals), keyOf(request), params.category));
