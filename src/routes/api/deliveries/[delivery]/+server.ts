import { z } from 'zod';
import { tryAgain } from '$lib/server/dispatch/parcels';
import { answered, callerOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params }) =>
  answered(() => tryAgain(callerOf(locals), z.uuid().parse(params.delivery)));
