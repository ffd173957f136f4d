import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { linkToPlaces, linkWish } from '$lib/server/pictures/links';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => linkToPlaces(signedIn(locals), keyOf(request), await wishOf(request, linkWish)));
