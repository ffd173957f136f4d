import { z } from 'zod';
import { dropGuide, writtenGuide } from '$lib/server/clinics/writtenGuides';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** The guide by itself, as it is brought in again. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => (await writtenGuide(signedIn(locals), understood(z.uuid(), params.guide))).written);

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropGuide(signedIn(locals), keyOf(request), understood(z.uuid(), params.guide)));
