import { deviceOf } from '$lib/server/devices/devices';
import { exposureOffer, takeExposure } from '$lib/server/devices/exposures';
import { answered, bodyBytes } from '$lib/server/http/answer';
import { Problem } from '$lib/server/problem';
import type { RequestHandler } from './$types';

const mostBytes = 300 * 1024 * 1024;

function described(header: string | null): unknown {
  try {
    return JSON.parse(Buffer.from(header ?? '', 'base64url').toString('utf8'));
  } catch {
    throw new Problem(
      'rubbish',
      'The description of the exposure could not be read.',
      'Offer it again.',
      422
    );
  }
}

/** RFC 9530: sha-256=:base64: */
function digestOf(header: string | null): Buffer | null {
  const value = /sha-256=:([A-Za-z0-9+/=]+):/.exec(header ?? '')?.[1];
  return value ? Buffer.from(value, 'base64') : null;
}

export const POST: RequestHandler = ({ request }) =>
  answered(async () => {
    const device = await deviceOf(request.headers.get('authorization'));
    const key = request.headers.get('idempotency-key') ?? '';
    if (!/^[\w-]{8,100}$/.test(key)) {
      throw new Problem(
        'no-key',
        'The exposure came without a usable key.',
        'Offer it again with an Idempotency-Key.',
        422
      );
    }
    const offer = exposureOffer.safeParse(described(request.headers.get('yonder-exposure')));
    if (!offer.success) {
      throw new Problem(
        'rubbish',
        `The exposure is described in a way that can’t be right: ${offer.error.issues[0].message}.`,
        'Offer it again.',
        422
      );
    }
    const samples = await bodyBytes(request, mostBytes);
    return takeExposure(device, key, offer.data, samples, digestOf(request.headers.get('content-digest')));
  });
