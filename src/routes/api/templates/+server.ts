import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { keepTemplate, templateWish } from '$lib/server/letters/templates';
import type { RequestHandler } from './$types';

/** Keeps a template for letters: a new one, or what one is now. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepTemplate(signedIn(locals), keyOf(request), await wishOf(request, templateWish)));
