import { keepOwnLook, ownLookWish, ownLooks } from '$lib/server/clinics/ownLooks';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals }) =>
  answered(async () => ({ looks: await ownLooks(signedIn(locals)) }));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => keepOwnLook(signedIn(locals), keyOf(request), await wishOf(request, ownLookWish)));
