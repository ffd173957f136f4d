import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import { retireColleague } from '$lib/server/letters/colleagues';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => retireColleague(signedIn(locals), keyOf(request), params.colleague));
