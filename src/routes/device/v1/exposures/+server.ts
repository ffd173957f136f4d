import { bytesAnnounced, exposureOffer } from '$lib/server/devices/exposureOffer';
import { takeExposure } from '$lib/server/devices/exposures';
import { answered } from '$lib/server/http/answer';
import { bytesOf, described, offeredKey, readOut } from '$lib/server/http/described';
import { Problem } from '$lib/server/problem';
import type { RequestHandler } from './$types';

const mostBytes = 300 * 1024 * 1024;

/** RFC 9530: sha-256=:base64: */
function digestOf(header: string | null): Buffer | null {
  if (header === null || header.trim() === '') return null;
  const value = /(?:^|,)\s*sha-256=:([A-Za-z0-9+/=]+):/.exec(header)?.[1];
  const digest = value ? Buffer.from(value, 'base64') : null;
  if (digest?.length === 32) return digest;
  throw new Problem(
    'unknown-digest',
    'The exposure’s digest is of a kind that is not checked here, or is cut off.',
    'Send its SHA-256, or none.',
    422
  );
}

export const POST: RequestHandler = ({ request }) =>
  answered(async () => {
    const key = offeredKey(request);
    const offer = exposureOffer.safeParse(described(request.headers.get('yonder-exposure')));
    if (!offer.success) {
      throw new Problem(
        'rubbish',
        `The exposure is described in a way that can’t be right: ${offer.error.issues[0].message}.`,
        'Offer it again.',
        422
      );
    }
    if (bytesAnnounced(offer.data) > mostBytes) {
      throw new Problem(
        'too-large',
        'This exposure is larger than any detector’s.',
        'Keep it and tell the clinic.',
        413
      );
    }
    const answer = await takeExposure({
      authorization: request.headers.get('authorization'),
      key,
      offer: offer.data,
      digest: digestOf(request.headers.get('content-digest')),
      body: bytesOf(request)
    });
    if (answer.again) await readOut(request);
    return answer;
  });
