import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { sayAttribute, saying } from '$lib/server/objects/said';
import type { RequestHandler } from './$types';

/** Says an attribute of a picture that came without any, or takes back what was said. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    sayAttribute(signedIn(locals), params.picture, keyOf(request), await wishOf(request, saying))
  );
