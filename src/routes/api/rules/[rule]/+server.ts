import { z } from 'zod';
import { dropRule } from '$lib/server/deidentify/rules';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const DELETE: RequestHandler = ({ locals, params, request }) =>
  answered(() => dropRule(signedIn(locals), keyOf(request), understood(z.uuid(), params.rule)));
