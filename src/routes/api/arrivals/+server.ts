import { answered, signedIn } from '$lib/server/http/answer';
import { arrivals } from '$lib/server/arrivals/arrivals';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) =>
  answered(async () => ({ arrivals: await arrivals(signedIn(locals)) }));
