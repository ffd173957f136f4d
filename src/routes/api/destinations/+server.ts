import { destinationWish, destinations, keepDestination } from '$lib/server/dispatch/destinations';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) => answered(() => destinations(signedIn(locals)));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () =>
    keepDestination(signedIn(locals), keyOf(request), await wishOf(request, destinationWish))
  );
