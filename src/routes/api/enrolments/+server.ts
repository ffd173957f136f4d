import { codeWish, enrol } from '$lib/server/devices/enrolment';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** A code for one device; asked for again it is another one, so nothing is kept of the asking. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => enrol(signedIn(locals), await wishOf(request, codeWish)));
