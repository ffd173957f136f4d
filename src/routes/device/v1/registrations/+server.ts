import { register, registration } from '$lib/server/devices/enrolment';
import { answered, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ request, getClientAddress }) =>
  answered(async () => register(await wishOf(request, registration), getClientAddress()));
