import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { dropPractice, keepPractice, practiceWish } from '$lib/server/practice/settingUp';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepPractice(signedIn(locals), keyOf(request), await wishOf(request, practiceWish)));

export const DELETE: RequestHandler = ({ locals, request }) =>
  answered(() => dropPractice(signedIn(locals), keyOf(request)));
