import { z } from 'zod';
import { dropPrinter } from '$lib/server/clinics/printers';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropPrinter(signedIn(locals), keyOf(request), understood(z.uuid(), params.printer)));
