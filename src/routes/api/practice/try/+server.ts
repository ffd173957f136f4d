import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { practiceWish, tryPractice } from '$lib/server/practice/settingUp';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () =>
    tryPractice(signedIn(locals), await wishOf(request, practiceWish.pick({ url: true })))
  );
