import { answered, callerOf } from '$lib/server/http/answer';
import { linkToTeeth, linkWish } from '$lib/server/pictures/links';
import type { RequestHandler } from './$types';

export const PUT: RequestHandler = ({ locals, request }) =>
  answered(async () => linkToTeeth(callerOf(locals), linkWish.parse(await request.json())));
