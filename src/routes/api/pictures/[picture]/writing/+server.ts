import { writingIn } from '$lib/server/deidentify/veils';
import { answered, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Ends when whoever asked has gone away. */
export const GET: RequestHandler = ({ locals, params, request }) =>
  answered(() => writingIn(signedIn(locals), params.picture, request.signal));
