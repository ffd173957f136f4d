import { arrivalsOfBundle } from '$lib/server/arrivals/arrivals';
import { answered, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** All that lies in a bundle, in the order it is looked through. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => ({ arrivals: await arrivalsOfBundle(signedIn(locals), params.bundle) }));
