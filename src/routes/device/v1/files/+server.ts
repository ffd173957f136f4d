import { fileOffer, takeDeviceFile } from '$lib/server/devices/deviceFiles';
import { answered, understood } from '$lib/server/http/answer';
import { bytesOf, described, offeredKey, readOut } from '$lib/server/http/described';
import type { RequestHandler } from './$types';

/** A file that a device has written, its bytes as the body. */
export const POST: RequestHandler = ({ request }) =>
  answered(async () => {
    const answer = await takeDeviceFile({
      authorization: request.headers.get('authorization'),
      key: offeredKey(request),
      offer: understood(fileOffer, described(request.headers.get('yonder-file'))),
      body: bytesOf(request)
    });
    if (answer.again) await readOut(request);
    return answer;
  });
