import { z } from 'zod';
import { dropLayout } from '$lib/server/clinics/printLayouts';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropLayout(signedIn(locals), keyOf(request), understood(z.uuid(), params.layout)));
