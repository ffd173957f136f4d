import { arrivalShown, mayLook } from '$lib/server/arrivals/showing';
import { answered, signedIn } from '$lib/server/http/answer';
import { keptForOne, unchanged } from '$lib/server/http/headers';
import type { RequestHandler } from './$types';

/** What arrived never changes; the browser keeps it, and asks each time whether it still may show it. */
export const GET: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const known = unchanged(request, params.arrival);
    if (known) {
      await mayLook(caller, params.arrival);
      return known;
    }
    const webp = await arrivalShown(caller, params.arrival);
    return new Response(new Uint8Array(webp), {
      headers: { 'content-type': 'image/webp', ...keptForOne(params.arrival) }
    });
  });
