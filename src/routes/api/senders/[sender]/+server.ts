import { z } from 'zod';
import { dropSender } from '$lib/server/clinics/senders';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropSender(signedIn(locals), keyOf(request), understood(z.uuid(), params.sender)));
