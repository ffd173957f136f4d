import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { trayWish, wishOfTray } from '$lib/server/trays/wishes';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    wishOfTray(signedIn(locals), params.tray, keyOf(request), await wishOf(request, trayWish))
  );
