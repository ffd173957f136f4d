import { register, registration } from '$lib/server/devices/devices';
import { answered, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ request }) =>
  answered(async () => register(await wishOf(request, registration)));
