import { z } from 'zod';
import { arrivalShown, mayLook } from '$lib/server/arrivals/showing';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { keptForOne, unchanged } from '$lib/server/http/headers';
import type { RequestHandler } from './$types';

const frameWanted = z.coerce.number().int().min(0).max(100_000);

/** What arrived never changes; the browser keeps it, and asks each time whether it still may show it. */
export const GET: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const frame = understood(frameWanted, url.searchParams.get('frame') ?? 0);
    const tag = frame === 0 ? params.arrival : `${params.arrival}-${frame}`;
    const known = unchanged(request, tag);
    if (known) {
      await mayLook(caller, params.arrival);
      return known;
    }
    const webp = await arrivalShown(caller, params.arrival, frame);
    return new Response(new Uint8Array(webp), {
      headers: { 'content-type': 'image/webp', ...keptForOne(tag) }
    });
  });
