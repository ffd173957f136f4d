import { answered, keyOf, signedIn, understood, wishOf } from '$lib/server/http/answer';
import { shelf, shelfQuery } from '$lib/server/shelf/caseViews';
import { caseWish, makeCase } from '$lib/server/shelf/cases';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, url }) =>
  answered(async () => shelf(signedIn(locals), understood(shelfQuery, Object.fromEntries(url.searchParams))));

/** A new case of these pictures. */
export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => makeCase(signedIn(locals), keyOf(request), await wishOf(request, caseWish)));
