import { createHash } from 'node:crypto';
import fs from 'node:fs';
import type { Look } from '../../core/raster/look/look';
import { lookAt, nextChange } from './progress';
import { lookOfCounts, samplesLookedAt } from '../../core/raster/statistics';

/** What is worked out of a file while it grows, in a thread of its own. */
export interface DigestWish {
  file: string;
  progress: Int32Array;
  /** Set for plain samples: then the look that the picture opens with is found on the way. */
  samples: { count: number; bitsStored: number } | null;
}

export interface Digest {
  /** Hexadecimal. */
  sha256: string;
  firstLook: Look | null;
  /** The most bits that a sample uses, where it could be more than announced. */
  bitsUsed: number;
}

const chunkBytes = 256 * 1024;
/** Nobody is waited for longer than this without a byte; then the sender is gone. */
const patienceMs = 15_000;

/** Reads a growing file to its end. Blocks its thread, which does nothing else meanwhile. */
export function digestOf({ file, progress, samples }: DigestWish): Digest {
  const handle = fs.openSync(file, 'r');
  const hash = createHash('sha256');
  const wide = samples !== null && samples.bitsStored > 8;
  const counts = samples ? new Uint32Array(wide ? 65_536 : 256) : null;
  const step = samples ? Math.max(1, Math.floor(samples.count / samplesLookedAt)) : 1;
  const buffer = Buffer.allocUnsafeSlow(chunkBytes);
  const words = new Uint16Array(buffer.buffer, buffer.byteOffset, chunkBytes >> 1);
  const pairs = new Uint32Array(buffer.buffer, buffer.byteOffset, chunkBytes >> 2);
  let at = 0;
  let sample = 0;
  const mayExceed = wide && samples.bitsStored < 16;
  let bits = 0;
  try {
    for (;;) {
      const { bytes: there, ended, state } = lookAt(progress);
      if (at >= there) {
        if (ended || !nextChange(progress, state, patienceMs)) break;
        continue;
      }
      // Whole words, so that none is cut in two, unless these are the last bytes.
      const ready = Math.min(chunkBytes, there - at);
      const length = ended && at + ready >= there ? ready : ready & ~1;
      if (length === 0) {
        if (!nextChange(progress, state, patienceMs)) break;
        continue;
      }
      const read = fs.readSync(handle, buffer, 0, length, at);
      if (read === 0) break;
      hash.update(buffer.subarray(0, read));
      if (mayExceed) bits |= bitsIn(pairs, read >> 2) | (read & 2 ? words[(read >> 1) - 1] : 0);
      if (counts) sample = counted(wide ? words : buffer, wide ? read >> 1 : read, counts, sample, step);
      at += read;
    }
  } finally {
    fs.closeSync(handle);
  }
  return {
    sha256: hash.digest('hex'),
    firstLook: counts && lookOfCounts(counts, 0),
    bitsUsed: 32 - Math.clz32(bits)
  };
}

/** All bits that any word uses, of so many pairs of them. */
function bitsIn(pairs: Uint32Array, length: number): number {
  let bits = 0;
  for (let i = 0; i < length; i++) bits |= pairs[i];
  return (bits >>> 16) | (bits & 0xffff);
}

/** Counts every `step`-th sample of a piece; `next` is how far into the piece the next one lies. */
function counted(
  samples: ArrayLike<number>,
  length: number,
  counts: Uint32Array,
  next: number,
  step: number
): number {
  let i = next;
  for (; i < length; i += step) counts[samples[i]]++;
  return i - length;
}
