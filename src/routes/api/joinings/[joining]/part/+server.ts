import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { partCharts, partWish } from '$lib/server/visits/joining';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    partCharts(signedIn(locals), params.joining, keyOf(request), await wishOf(request, partWish))
  );
