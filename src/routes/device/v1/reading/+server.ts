import { deviceOf } from '$lib/server/devices/devices';
import { readingReport, reportReading } from '$lib/server/devices/reading';
import { answered, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = ({ request }) =>
  answered(async () => {
    const device = await deviceOf(request.headers.get('authorization'));
    await reportReading(device, await wishOf(request, readingReport));
  });
