import { deviceOf, lampReport, reportLamp } from '$lib/server/devices/devices';
import { answered } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = ({ request }) =>
  answered(async () => {
    const device = await deviceOf(request.headers.get('authorization'));
    await reportLamp(device, lampReport.parse(await request.json()));
  });
