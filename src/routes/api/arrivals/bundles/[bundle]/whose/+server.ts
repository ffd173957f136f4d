import { whoseBundle } from '$lib/server/arrivals/bundles';
import { answered, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Whose it may be, with the reasons. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => whoseBundle(signedIn(locals), params.bundle));
