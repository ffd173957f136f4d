import { z } from 'zod';
import { answered, keyOf, signedIn, understood } from '$lib/server/http/answer';
import { bytesOf, wholeBody } from '$lib/server/http/described';
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
  const { bytes } = await wholeBody(bytesOf(request), mostStateBytes);
  if (!bytes)
    throw new Problem(
      'too-large',
      'This is larger than any presentation state or report that is read here.',
      'Bring pictures in at Acquire; here only what is said about one is read.',
      413
    );
  return bytes;
}
