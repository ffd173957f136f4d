import { arrivingPaper } from '$lib/server/arrivals/showing';
import { answered, signedIn } from '$lib/server/http/answer';
import { keptForOne } from '$lib/server/http/headers';
import type { RequestHandler } from './$types';

/** A paper as it came, for the browser's own reader. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => {
    const { bytes, tag, title } = await arrivingPaper(signedIn(locals), params.arrival);
    return new Response(bytes, {
      headers: {
        'content-type': 'application/pdf',
        'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(title)}`,
        ...keptForOne(tag)
      }
    });
  });
