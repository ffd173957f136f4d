import { deviceOf, lampReport, reportLamp } from '$lib/server/devices/devices';
import { answered, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = ({ request }) =>
  answered(async () => {
    const device = await deviceOf(request.headers.get('authorization'));
    await reportLamp(device, await wishOf(request, lampReport));
  });
