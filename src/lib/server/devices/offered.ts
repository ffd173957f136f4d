import type { Digest } from '../blobs/digest';
import type { Landing } from '../blobs/landing';
import type { ExposureOffer } from './exposureOffer';

export interface Offered {
  authorization: string | null;
  key: string;
  offer: ExposureOffer;
  /** SHA-256 as the device has it, if it says. */
  digest: Buffer | null;
  body: AsyncIterable<Uint8Array>;
}

export interface Acknowledged {
  pictureId: string;
  /** Whether the key was known: then nothing was stored again. */
  again: boolean;
}

/** Bytes on their way into a file, with their digest, which a thread works out as they come. */
export interface Coming {
  landing: Landing;
  received: Promise<void>;
  digest: Promise<Digest>;
}
