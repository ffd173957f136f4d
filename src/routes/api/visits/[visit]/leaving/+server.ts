import { z } from 'zod';
import { leaving } from '$lib/server/deidentify/leaving';
import { answered, signedIn, wishOf } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

const wish = z.strictObject({
  pictureIds: z.array(z.uuid()).min(1).max(200),
  ruleId: z.uuid().nullable().optional()
});

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const { pictureIds, ruleId } = await wishOf(request, wish);
    return leaving(signedIn(locals), params.visit, pictureIds, ruleId ?? null);
  });
