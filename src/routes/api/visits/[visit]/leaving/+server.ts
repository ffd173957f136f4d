import { z } from 'zod';
import { leaving } from '$lib/server/deidentify/leaving';
import { answered, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

const wish = z.object({ pictureIds: z.array(z.uuid()).min(1).max(200) });

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const { pictureIds } = wish.parse(await request.json());
    return leaving(signedIn(locals), params.visit, pictureIds);
  });
