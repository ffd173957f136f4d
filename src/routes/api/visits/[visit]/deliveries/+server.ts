import { answered, signedIn } from '$lib/server/http/answer';
import { deliveriesSeen } from '$lib/server/visits/visits';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(() => deliveriesSeen(signedIn(locals), params.visit));
