import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { categories, categoryWish, keepCategory } from '$lib/server/pictures/categories';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) =>
  answered(async () => ({ categories: await categories(signedIn(locals)) }));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () =>
    keepCategory(signedIn(locals), keyOf(request), null, await wishOf(request, categoryWish))
  );
