import { z } from 'zod';
import { fetchParcel } from '$lib/server/dispatch/fetching';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import type { RequestHandler } from './$types';

/** The parcel as a ZIP. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => {
    const { stream, fileName } = await fetchParcel(signedIn(locals), understood(z.uuid(), params.parcel));
    return new Response(stream, {
      headers: {
        'content-type': 'application/zip',
        'content-disposition': `attachment; filename="${fileName}"`,
        'cache-control': 'no-store'
      }
    });
  });
