import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { joinCharts, joinWish } from '$lib/server/visits/joining';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    joinCharts(signedIn(locals), params.patient, keyOf(request), await wishOf(request, joinWish))
  );
