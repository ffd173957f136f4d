import { z } from 'zod';
import { dropMarker } from '$lib/server/clinics/settings';
import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropMarker(signedIn(locals), keyOf(request), z.uuid().parse(params.marker)));
