import { type Dataset, isEncapsulated } from './dataset';
import { pixelDataTag } from './dictionary';
import { explicitLittleEndian } from './write';

/** Pixel data as they travel by themselves, as bulk data of a data set in JSON (PS3.18 8.7.3). */
export interface PixelBody {
  /** OB or OW. */
  vr: string;
  type: 'image/jpeg' | 'application/octet-stream';
  transferSyntax: string;
  bytes: Uint8Array;
}

/** @throws RangeError for a data set without pixel data, or with frames that are coded each by itself */
export function pixelBody(set: Dataset): PixelBody {
  const element = set.find(({ tag }) => tag === pixelDataTag);
  if (!element) throw new RangeError('a data set without pixel data has no body');
  const { vr, value } = element;
  if (Array.isArray(value)) throw new RangeError('pixel data are bytes');
  if (!isEncapsulated(value)) {
    const bytes = new Uint8Array(value.buffer, value.byteOffset, value.byteLength);
    return { vr, type: 'application/octet-stream', transferSyntax: explicitLittleEndian, bytes };
  }
  if (value.fragments.length !== 1) throw new RangeError('only a still travels by itself');
  return { vr, type: 'image/jpeg', transferSyntax: value.syntax, bytes: value.fragments[0] };
}
