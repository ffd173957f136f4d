import { z } from 'zod';
import { dropOwnLook } from '$lib/server/clinics/ownLooks';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropOwnLook(signedIn(locals), keyOf(request), understood(z.uuid(), params.look)));
