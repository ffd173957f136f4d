import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { keepMarker, markerWish, markers } from '$lib/server/clinics/settings';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) =>
  answered(async () => ({ markers: await markers(signedIn(locals)) }));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepMarker(signedIn(locals), keyOf(request), await wishOf(request, markerWish)));
