import { z } from 'zod';
import { tryAgain } from '$lib/server/dispatch/parcels';
import { answered, keyOf, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(() => tryAgain(signedIn(locals), keyOf(request), z.uuid().parse(params.delivery)));
