import { answered, signedIn } from '$lib/server/http/answer';
import { fileAnswer } from '$lib/server/http/fileAnswer';
import { readingsOut } from '$lib/server/takenOut/takenOut';
import type { RequestHandler } from './$types';

/** All readings of the visit, as a table. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => fileAnswer(await readingsOut(signedIn(locals), params.visit)));
