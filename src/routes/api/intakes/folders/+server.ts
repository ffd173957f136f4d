import { beginReading, folderWish, foldersToRead } from '$lib/server/arrivals/readFolder';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Folders on the server's machine that may be read. */
export const GET: RequestHandler = ({ locals }) =>
  answered(async () => ({ folders: await foldersToRead(signedIn(locals)) }));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => beginReading(signedIn(locals), keyOf(request), await wishOf(request, folderWish)));
