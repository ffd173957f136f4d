import { z } from 'zod';
import { answered, signedIn, understood } from '$lib/server/http/answer';
import { caseFile } from '$lib/server/shelf/caseViews';
import type { RequestHandler } from './$types';

/** A picture of a case, to be looked at. Its bytes never change. */
export const GET: RequestHandler = ({ locals, params }) =>
  answered(async () => {
    const bytes = await caseFile(
      signedIn(locals),
      understood(z.uuid(), params.case),
      understood(z.uuid(), params.file)
    );
    return new Response(new Uint8Array(bytes), {
      headers: { 'content-type': 'image/jpeg', 'cache-control': 'private, max-age=3600' }
    });
  });
