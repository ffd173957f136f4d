import { paperChange } from '$core/papers/paper';
import { answered, keyOf, signedIn, wishOf } from '$lib/server/http/answer';
import { keptForOne } from '$lib/server/http/headers';
import { changePaper, paperFile } from '$lib/server/papers/papers';
import type { RequestHandler } from './$types';

/** The paper as it came, for the browser's own reader. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => {
    const { bytes, tag, title } = await paperFile(signedIn(locals), params.paper);
    return new Response(bytes, {
      headers: {
        'content-type': 'application/pdf',
        'content-disposition': `inline; filename*=UTF-8''${encodeURIComponent(`${title}.pdf`)}`,
        ...keptForOne(tag)
      }
    });
  });

export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () =>
    changePaper(signedIn(locals), params.paper, keyOf(request), await wishOf(request, paperChange))
  );
