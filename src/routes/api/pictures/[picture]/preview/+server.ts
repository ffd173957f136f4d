import { z } from 'zod';
import { turnOf, turnWords } from '$core/raster/orientation';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { keptForOne, unchanged } from '$lib/server/http/headers';
import { demand } from '$lib/server/people/caller';
import { inChart } from '$lib/server/pictures/changes';
import { previewSoon } from '$lib/server/pictures/previews';
import type { RequestHandler } from './$types';

const wish = z.object({
  seq: z.coerce.number().int().min(0),
  turn: z
    .string()
    .max(8)
    .transform((words, context) => {
      const orientation = turnOf(words);
      if (orientation) return orientation;
      context.addIssue({ code: 'custom', message: 'this is no turn' });
      return z.NEVER;
    })
});

/** A small picture as it stood at one of its steps. The address names the step, so what it gives never changes. */
export const GET: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    await demand(caller, 'view charts', params.picture);
    const { seq, turn: orientation } = understood(wish, Object.fromEntries(url.searchParams));
    const tag = `${params.picture} ${seq} ${turnWords(orientation)}`;
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
