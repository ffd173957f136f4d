import { z } from 'zod';
import { tryAgain } from '$lib/server/dispatch/parcels';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(() => tryAgain(signedIn(locals), keyOf(request), understood(z.uuid(), params.delivery)));
