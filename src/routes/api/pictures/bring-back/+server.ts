import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { bringBackPictures, returnWish } from '$lib/server/pictures/away';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () =>
    bringBackPictures(signedIn(locals), keyOf(request), await wishOf(request, returnWish))
  );
