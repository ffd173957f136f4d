/**
 * A picture as numbers: row by row from the top left, channels interleaved (1 grey, 3 red green blue).
 * Grey data is 8- or 16-bit unsigned; signed originals are shifted by `offset`: original = sample + offset.
 */
export interface Raster {
  width: number;
  height: number;
  channels: 1 | 3;
  /** How many low bits of a sample carry the picture, 8 to 16. */
  bitsStored: number;
  offset: number;
  data: Uint8Array | Uint16Array;
}

/** @throws RangeError when sizes and data disagree */
export function assertRaster(raster: Raster): Raster {
  const { width, height, channels, bitsStored, data } = raster;
  if (!(width > 0 && height > 0)) throw new RangeError(`a picture needs a size, got ${width} x ${height}`);
  if (data.length !== width * height * channels) {
    throw new RangeError(`${width} x ${height} x ${channels} samples expected, got ${data.length}`);
  }
  if (bitsStored < 1 || bitsStored > 16)
    throw new RangeError(`bitsStored must be 1 to 16, got ${bitsStored}`);
  if (bitsStored > 8 && !(data instanceof Uint16Array))
    throw new RangeError('more than 8 bits need 16-bit data');
  return raster;
}

export function bytesOf(raster: Raster): Uint8Array {
  return new Uint8Array(raster.data.buffer, raster.data.byteOffset, raster.data.byteLength);
}

/** Samples from little-endian bytes; copies only when the bytes are not aligned. */
export function samplesFrom(bytes: Uint8Array, bitsStored: number): Uint8Array | Uint16Array {
  if (bitsStored <= 8) return bytes;
  const aligned = bytes.byteOffset % 2 === 0 ? bytes : bytes.slice();
  return new Uint16Array(aligned.buffer, aligned.byteOffset, aligned.byteLength >> 1);
}
