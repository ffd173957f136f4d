import { knowSender } from '$lib/server/clinics/senders';
import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Whoever sent this mail is known from now on. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => knowSender(signedIn(locals), keyOf(request), params.intake));
