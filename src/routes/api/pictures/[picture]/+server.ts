import { answered, signedIn } from '$lib/server/http/answer';
import { pictureSeen } from '$lib/server/pictures/changes';
import type { RequestHandler } from './$types';

export const GET: RequestHandler = ({ locals, params }) =>
  answered(() => pictureSeen(signedIn(locals), params.picture));
