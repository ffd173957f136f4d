import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import { bringBack } from '$lib/server/pictures/changes';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(() => bringBack(signedIn(locals), params.picture, keyOf(request)));
