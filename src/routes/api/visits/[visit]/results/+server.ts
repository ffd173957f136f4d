import { answered, signedIn, understood } from '$lib/server/http/answer';
import { fileAnswer } from '$lib/server/http/fileAnswer';
import { resultsOut, resultsWish } from '$lib/server/report/resultsOut';
import type { RequestHandler } from './$types';

/** What was measured in the visit, as a PDF. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(async () => {
    const wish = understood(resultsWish, Object.fromEntries(url.searchParams));
    return fileAnswer(await resultsOut(signedIn(locals), params.visit, wish));
  });
