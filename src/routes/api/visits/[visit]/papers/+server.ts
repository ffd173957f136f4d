import { z } from 'zod';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import { bytesOf } from '$lib/server/http/described';
import { addPaper } from '$lib/server/papers/papers';
import type { RequestHandler } from './$types';

/** One PDF a request, its bytes as the body; its name in the address. */
export const POST: RequestHandler = ({ locals, params, request, url }) =>
  answered(async () =>
    addPaper(signedIn(locals), {
      visitId: params.visit,
      fileName: url.searchParams.get('name') ?? '',
      body: bytesOf(request),
      key: understood(z.uuid(), keyOf(request))
    })
  );
