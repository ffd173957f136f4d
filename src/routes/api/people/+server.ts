import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { invite, inviteWish } from '$lib/server/people/staff';
import type { RequestHandler } from './$types';

/** Somebody new; the code of their link is told this once. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => invite(signedIn(locals), keyOf(request), await wishOf(request, inviteWish)));
