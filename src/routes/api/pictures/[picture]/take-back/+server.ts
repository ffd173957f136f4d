import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import { takeBack } from '$lib/server/pictures/changes';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(() => takeBack(signedIn(locals), params.picture, keyOf(request)));
