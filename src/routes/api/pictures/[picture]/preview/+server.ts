import { z } from 'zod';
import { inClinic } from '$lib/server/database/connection';
import { answered, callerOf } from '$lib/server/http/answer';
import { preview } from '$lib/server/pictures/preview';
import type { RequestHandler } from './$types';

const view = z.object({
  center: z.coerce.number(),
  width: z.coerce.number().min(1),
  inverted: z.enum(['0', '1']),
  turns: z.coerce.number().int().min(0).max(3),
  mirrored: z.enum(['0', '1'])
});

/** A small picture. The address names the look, so what it gives never changes. */
export const GET: RequestHandler = ({ locals, params, url }) =>
  answered(async () => {
    const caller = callerOf(locals);
    const asked = view.parse(Object.fromEntries(url.searchParams));
    const look = { window: { center: asked.center, width: asked.width }, inverted: asked.inverted === '1' };
    const orientation = { quarterTurns: asked.turns as 0 | 1 | 2 | 3, mirrored: asked.mirrored === '1' };
    const webp = await inClinic(caller.clinicId, (tx) => preview(tx, params.picture, look, orientation));
    return new Response(new Uint8Array(webp), {
      headers: { 'content-type': 'image/webp', 'cache-control': 'private, max-age=31536000, immutable' }
    });
  });
