import { z } from 'zod';
import { dropMarker } from '$lib/server/clinics/settings';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropMarker(signedIn(locals), keyOf(request), understood(z.uuid(), params.marker)));
