import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { freshPatient } from '$lib/server/visits/finding';
import { likelyDoubles } from '$lib/server/visits/newPatient';
import type { RequestHandler } from './$types';

/** Asks only; it is a POST because what is typed of a patient stays out of addresses. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => ({
    doubles: await likelyDoubles(signedIn(locals), await wishOf(request, freshPatient))
  }));
