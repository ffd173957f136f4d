import { changeFolders, foldersWish } from '$lib/server/clinics/senders';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => changeFolders(signedIn(locals), keyOf(request), await wishOf(request, foldersWish)));
