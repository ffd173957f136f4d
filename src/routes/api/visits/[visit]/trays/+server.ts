import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { anotherTray, newTrayWish, traysSeen } from '$lib/server/trays/wishes';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => ({ trays: await traysSeen(signedIn(locals), params.visit) }));

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    anotherTray(signedIn(locals), params.visit, keyOf(request), await wishOf(request, newTrayWish))
  );
