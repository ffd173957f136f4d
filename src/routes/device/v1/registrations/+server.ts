import { register, registration } from '$lib/server/devices/devices';
import { answered } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ request }) =>
  answered(async () => register(registration.parse(await request.json())));
