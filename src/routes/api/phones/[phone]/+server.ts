import { z } from 'zod';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import { endPairing } from '$lib/server/phones/paired';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => endPairing(signedIn(locals), keyOf(request), understood(z.uuid(), params.phone)));
