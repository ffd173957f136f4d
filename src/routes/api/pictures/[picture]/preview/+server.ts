import { z } from 'zod';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { keptForOne, unchanged } from '$lib/server/http/headers';
import { demand } from '$lib/server/people/caller';
import { inChart } from '$lib/server/pictures/changes';
import { previewSoon } from '$lib/server/pictures/previews';
import type { RequestHandler } from './$types';

const wish = z.object({
  seq: z.coerce.number().int().min(0),
  turn: z.string().regex(/^[0-3]m?$/)
});

/** A small picture as it stood at one of its steps. The address names the step, so what it gives never changes. */
export const GET: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    await demand(caller, 'view charts', params.picture);
    const { seq, turn } = understood(wish, Object.fromEntries(url.searchParams));
    const orientation = { quarterTurns: Number(turn[0]) as 0 | 1 | 2 | 3, mirrored: turn.endsWith('m') };
    const tag = `${params.picture} ${seq} ${turn}`;
    const known = unchanged(request, tag);
    if (known) {
      await inChart(caller, params.picture);
      return known;
    }
    const webp = await previewSoon([caller.clinicId, params.picture, seq, orientation]);
    return new Response(new Uint8Array(webp), {
      headers: { 'content-type': 'image/webp', ...keptForOne(tag) }
    });
  });
