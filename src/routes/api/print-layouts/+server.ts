import { keepLayout, layoutWish } from '$lib/server/clinics/printLayouts';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepLayout(signedIn(locals), keyOf(request), await wishOf(request, layoutWish)));
