import { answered, signedIn, understood } from '$lib/server/http/answer';
import { fileAnswer } from '$lib/server/http/fileAnswer';
import { outWish, takeOut } from '$lib/server/takenOut/takenOut';
import type { RequestHandler } from './$types';

/** The picture as a file. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const wish = understood(outWish, Object.fromEntries(url.searchParams));
    return fileAnswer(await takeOut(caller, params.picture, wish));
  });
