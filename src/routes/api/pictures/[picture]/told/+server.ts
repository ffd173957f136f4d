import { z } from 'zod';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import { bytesOf } from '$lib/server/http/described';
import { mostStateBytes, readOnto } from '$lib/server/pictures/readOnto';
import { Problem } from '$lib/server/problem';
import type { RequestHandler } from './$types';

/** A presentation state or report about this picture, its bytes as the body: what it says is put onto the picture. */
export const POST: RequestHandler = ({ locals, params, request }) =>
  answered(async () => {
    const caller = signedIn(locals);
    const key = understood(z.uuid(), keyOf(request));
    return readOnto(caller, params.picture, key, await limited(request));
  });

async function limited(request: Request): Promise<Uint8Array> {
  const parts: Uint8Array[] = [];
  let size = 0;
  // Of what is too large nothing is kept, but it is heard to the end, so that its sender hears why.
  for await (const part of bytesOf(request)) {
    size += part.length;
    if (size > mostStateBytes) parts.length = 0;
    else parts.push(part);
  }
  if (size > mostStateBytes)
    throw new Problem(
      'too-large',
      'This is larger than any presentation state or report that is read here.',
      'Bring pictures in at Acquire; here only what is said about one is read.',
      413
    );
  return Buffer.concat(parts);
}
