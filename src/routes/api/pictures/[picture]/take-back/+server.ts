import { z } from 'zod';
import { answered, callerOf } from '$lib/server/http/answer';
import { takeBack } from '$lib/server/pictures/steps';
import type { RequestHandler } from './$types';

const wish = z.object({ key: z.uuid() });

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const { key } = wish.parse(await request.json());
    return { layer: await takeBack(callerOf(locals), params.picture, key) };
  });
