import { z } from 'zod';
import { tryDestination } from '$lib/server/dispatch/destinations';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params }) =>
  answered(() => tryDestination(signedIn(locals), understood(z.uuid(), params.destination)));
