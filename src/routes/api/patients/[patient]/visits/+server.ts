import { answered, signedIn } from '$lib/server/http/answer';
import { visitsSeen } from '$lib/server/visits/visitList';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => ({ visits: await visitsSeen(signedIn(locals), params.patient) }));
