import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { findPatients } from '$lib/server/visits/finding';
import { enterPatient, enterWish } from '$lib/server/visits/newPatient';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, url }) =>
  answered(async () => ({
    patients: await findPatients(signedIn(locals), url.searchParams.get('words') ?? '')
  }));

export const POST: RequestHandler = ({ locals, request }) =>
  answered(async () => enterPatient(signedIn(locals), keyOf(request), await wishOf(request, enterWish)));
