import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { changePassword, passwordWish } from '$lib/server/people/staff';
import type { RequestHandler } from './$types';

/** One's own password. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => changePassword(signedIn(locals), await wishOf(request, passwordWish)));
