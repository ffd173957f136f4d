import { guideWish, keepGuide, writtenGuides } from '$lib/server/clinics/writtenGuides';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) =>
  answered(async () => ({ guides: await writtenGuides(signedIn(locals)) }));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepGuide(signedIn(locals), keyOf(request), await wishOf(request, guideWish)));
