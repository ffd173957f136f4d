import { z } from 'zod';
import { inClinic } from '$lib/server/database/connection';
import { answered, callerOf } from '$lib/server/http/answer';
import { zippedLevel } from '$lib/server/pictures/rasters';
import type { RequestHandler } from './$types';

const number = z.coerce.number().int().min(0).max(12);

/** Samples of one level, little-endian, which the browser unzips by itself. They never change. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => {
    const caller = callerOf(locals);
    const level = number.parse(params.level);
    const zipped = await inClinic(caller.clinicId, (tx) => zippedLevel(tx, params.picture, level));
    return new Response(new Uint8Array(zipped), {
      headers: {
        'content-type': 'application/octet-stream',
        'content-encoding': 'gzip',
        'cache-control': 'private, max-age=31536000, immutable'
      }
    });
  });
