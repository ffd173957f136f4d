import { sayNoLettering } from '$lib/server/deidentify/lettering';
import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** Somebody says that they looked, and that no name stands in the picture itself. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(() => sayNoLettering(signedIn(locals), params.picture, keyOf(request)));
