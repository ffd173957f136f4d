import { answered, signedIn } from '$lib/server/http/answer';
import { findPatients } from '$lib/server/visits/patients';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, url }) =>
  answered(async () => ({
    patients: await findPatients(signedIn(locals), url.searchParams.get('words') ?? '')
  }));
