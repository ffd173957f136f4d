import { beginLetterWish } from '$core/letter/letterView';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { beginLetter } from '$lib/server/letters/letters';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    beginLetter(signedIn(locals), params.visit, keyOf(request), await wishOf(request, beginLetterWish))
  );
