import { gzip as gzipWithCallback, gunzip as gunzipWithCallback } from 'node:zlib';
import { promisify } from 'node:util';
import { type Raster, bytesOf } from '../../core/raster/raster';

const gzip = promisify(gzipWithCallback);
const gunzip = promisify(gunzipWithCallback);

/** One level of a frame, ready to be sent: compressed where that saves anything. */
export interface LevelBytes {
  frame: number;
  level: number;
  width: number;
  height: number;
  encoding: 'gzip' | 'identity';
  bytes: Uint8Array;
}

/** The fastest level: radiographs hardly shrink more with a higher one. */
const zipLevel = 1;
/** A piece from the middle tells whether the whole would shrink. */
const triedBytes = 64 * 1024;
/** Below this share of its size it is worth the undoing. */
const worthShare = 0.8;

/** The same, as it is: trying whether it shrinks takes longer than sending it to a page that waits. */
export const plainLevel = (raster: Raster, frame: number, level: number): LevelBytes => ({
  frame,
  level,
  width: raster.width,
  height: raster.height,
  encoding: 'identity',
  bytes: bytesOf(raster)
});

export async function levelBytes(raster: Raster, frame: number, level: number): Promise<LevelBytes> {
  const plain = plainLevel(raster, frame, level);
  const { bytes } = plain;
  const from = Math.max(0, (bytes.length - triedBytes) >> 1) & ~1;
  const piece = bytes.subarray(from, from + triedBytes);
  const tried = await gzip(piece, { level: zipLevel });
  if (tried.length > worthShare * piece.length) return plain;
  return { ...plain, encoding: 'gzip', bytes: await gzip(bytes, { level: zipLevel }) };
}

export async function unpackedLevel({
  encoding,
  bytes
}: Pick<LevelBytes, 'encoding' | 'bytes'>): Promise<Uint8Array> {
  return encoding === 'gzip' ? gunzip(bytes) : bytes;
}
