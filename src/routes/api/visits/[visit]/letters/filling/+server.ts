import { beginLetterWish } from '$core/letter/letterView';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { fillingOfTemplate } from '$lib/server/letters/letters';
import type { RequestHandler } from './$types';

/** What a letter would be filled with if it were begun so. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    fillingOfTemplate(signedIn(locals), params.visit, await wishOf(request, beginLetterWish))
  );
