import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { awayWish, takeAway } from '$lib/server/pictures/away';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () =>
    takeAway(signedIn(locals), keyOf(request), 'arrivals', await wishOf(request, awayWish))
  );
