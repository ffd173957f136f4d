import { deviceActs, setDevice } from '$lib/server/devices/settingUp';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** How a device is called and where it stands, or that it is retired. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    setDevice(signedIn(locals), keyOf(request), params.device, await wishOf(request, deviceActs))
  );
