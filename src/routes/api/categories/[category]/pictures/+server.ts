import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { filePictures, filingWish } from '$lib/server/pictures/categories';
import type { RequestHandler } from './$types';

/** Files pictures under a category, or takes them out of it. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    filePictures(signedIn(locals), keyOf(request), params.category, await wishOf(request, filingWish))
  );
