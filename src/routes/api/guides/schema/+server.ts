import { z } from 'zod';
import { writtenGuideSchema } from '$lib/core/measurement/guides/writtenSchema';
import { answered, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** What a guide's file looks like, as a JSON Schema, for whoever writes one by other means. */
export const GET: RequestHandler = ({ locals }) =>
  answered(async () => {
    signedIn(locals);
    return z.toJSONSchema(writtenGuideSchema);
  });
