import { z } from 'zod';
import { leaving } from '$lib/server/deidentify/leaving';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

const wish = z.object({ pictureIds: z.array(z.uuid()).min(1).max(200) });

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const { pictureIds } = await wishOf(request, wish);
    return leaving(signedIn(locals), params.visit, pictureIds);
  });
