import { addressWish, keepAddress } from '$lib/server/clinics/letterhead';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** What stands under the clinic's name on its papers. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepAddress(signedIn(locals), await wishOf(request, addressWish)));
