import { cleanTexts } from '../../core/text';
import { actKey } from '../acts/once';
import { Problem } from '../problem';

/** JSON in a header, as base64url: what a body of bytes is. */
export function described(header: string | null): unknown {
  try {
    return cleanTexts(JSON.parse(Buffer.from(header ?? '', 'base64url').toString('utf8')));
  } catch {
    throw new Problem('rubbish', 'The description of what came could not be read.', 'Offer it again.', 422);
  }
}

/** The key of something that is offered again until it is acknowledged. */
export function offeredKey(request: Request): string {
  const key = request.headers.get('idempotency-key') ?? '';
  if (actKey.test(key)) return key;
  throw new Problem(
    'no-key',
    'This came without a usable key.',
    'Offer it again with an Idempotency-Key.',
    422
  );
}

const nothing: AsyncIterable<Uint8Array> = (async function* () {})();

/** The bytes of a request as they come. */
export const bytesOf = (request: Request): AsyncIterable<Uint8Array> =>
  (request.body as AsyncIterable<Uint8Array> | null) ?? nothing;

/** A small body whole, and its size; null where it has more bytes than that. It is heard to its end, so that its sender hears why. */
export async function wholeBody(
  body: AsyncIterable<Uint8Array>,
  most: number
): Promise<{ bytes: Buffer | null; size: number }> {
  const parts: Uint8Array[] = [];
  let size = 0;
  for await (const part of body) {
    size += part.length;
    if (size > most) parts.length = 0;
    else parts.push(part);
  }
  return { bytes: size > most ? null : Buffer.concat(parts), size };
}

/** Reads to the end what nobody wants, so that the sender can send it all and hear the answer. */
export async function readOut(request: Request): Promise<void> {
  if (request.bodyUsed) return;
  try {
    for await (const chunk of bytesOf(request)) void chunk;
  } catch {
    // Whoever sent it is gone.
  }
}
