import { answered, signedIn } from '$lib/server/http/answer';
import { binOf } from '$lib/server/pictures/bin';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => ({ pictures: await binOf(signedIn(locals), params.patient) }));
