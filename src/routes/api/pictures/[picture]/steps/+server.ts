import { answered, callerOf } from '$lib/server/http/answer';
import { stepWish } from '$lib/server/pictures/layers';
import { addStep } from '$lib/server/pictures/steps';
import type { RequestHandler } from './$types';

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => addStep(callerOf(locals), params.picture, stepWish.parse(await request.json())));
