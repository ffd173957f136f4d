import { arrivalShown } from '$lib/server/arrivals/showing';
import { answered, signedIn } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** What arrived never changes, so a browser may keep it for as long as it likes. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => {
    const webp = await arrivalShown(signedIn(locals), params.arrival);
    return new Response(new Uint8Array(webp), {
      headers: { 'content-type': 'image/webp', 'cache-control': 'private, max-age=86400, immutable' }
    });
  });
