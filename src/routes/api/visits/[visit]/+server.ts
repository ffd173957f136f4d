import { answered, signedIn } from '$lib/server/http/answer';
import { visitView } from '$lib/server/visits/visits';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(() => visitView(signedIn(locals), params.visit));
