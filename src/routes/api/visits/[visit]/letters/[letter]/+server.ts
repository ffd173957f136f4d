import { changeLetterWish } from '$core/letter/letterView';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { madePaper } from '$lib/server/http/madePaper';
import { letterOut } from '$lib/server/letters/letterOut';
import { changeAndFill, dropLetter } from '$lib/server/letters/letters';
import type { RequestHandler } from './$types';

/** The letter as a PDF, with what has to be heard before it is shared. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => madePaper(await letterOut(signedIn(locals), params.visit, params.letter)));

/** Keeps it as it is now, and tells what fills it. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    changeAndFill(
      signedIn(locals),
      params.visit,
      params.letter,
      keyOf(request),
      await wishOf(request, changeLetterWish)
    )
  );

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropLetter(signedIn(locals), params.visit, params.letter, keyOf(request)));
