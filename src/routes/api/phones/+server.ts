import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import { newPairing, pairingWish } from '$lib/server/phones/phones';
import type { RequestHandler } from './$types';

/** A code for a phone, shown once. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => newPairing(signedIn(locals), await wishOf(request, pairingWish)));
