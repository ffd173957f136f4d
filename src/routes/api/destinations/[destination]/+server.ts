import { z } from 'zod';
import { dropDestination } from '$lib/server/dispatch/destinations';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropDestination(signedIn(locals), keyOf(request), understood(z.uuid(), params.destination)));
