import { createRequire } from 'node:module';
import sharp from 'sharp';
import { cutOff, mostPixels } from './opened';

const require = createRequire(import.meta.url);

export interface FrameShape {
  width: number;
  height: number;
  channels: 1 | 3;
  bitsAllocated: 8 | 16;
}

/** Decoded samples as little-endian bytes, colour by pixel, exactly as long as the frame's shape says. */
type Decoder = (bytes: Uint8Array, shape: FrameShape) => Promise<Uint8Array>;

interface WasmDecoder {
  getEncodedBuffer(length: number): Uint8Array;
  decode(): void;
  getDecodedBuffer(): Uint8Array;
  delete(): void;
}

async function throughWasm(make: () => Promise<WasmDecoder>, bytes: Uint8Array): Promise<Uint8Array> {
  const decoder = await make();
  try {
    decoder.getEncodedBuffer(bytes.length).set(bytes);
    decoder.decode();
    return Uint8Array.from(decoder.getDecodedBuffer());
  } catch {
    throw cutOff('DICOM');
  } finally {
    decoder.delete();
  }
}

/** JPEG-LS hangs when its end mark is missing, so that is looked for first. */
const jpegLs: Decoder = async (bytes) => {
  let end = bytes.length;
  while (end > 2 && bytes[end - 1] === 0) end--;
  if (bytes[end - 2] !== 0xff || bytes[end - 1] !== 0xd9) throw cutOff('DICOM');
  return throughWasm(async () => {
    const codec = await require('@cornerstonejs/codec-charls')();
    return new codec.JpegLSDecoder();
  }, bytes);
};

const jpeg2000: Decoder = (bytes) =>
  throughWasm(async () => {
    const codec = await require('@cornerstonejs/codec-openjpeg')();
    return new codec.J2KDecoder();
  }, bytes);

const jpegLossless: Decoder = async (bytes) => {
  const { Decoder: Lossless } = require('jpeg-lossless-decoder-js');
  try {
    const out: ArrayBuffer = new Lossless().decompress(
      bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength)
    );
    return new Uint8Array(out);
  } catch {
    throw cutOff('DICOM');
  }
};

const jpegBaseline: Decoder = async (bytes, shape) => {
  try {
    const image = sharp(bytes, { limitInputPixels: mostPixels, failOn: 'warning' });
    return await image
      .toColourspace(shape.channels === 1 ? 'b-w' : 'srgb')
      .raw()
      .toBuffer();
  } catch {
    throw cutOff('DICOM');
  }
};

/** Run lengths by PS3.5 annex G: one segment a byte plane, the high byte of 16-bit samples first. */
const runLength: Decoder = async (bytes, { width, height, channels, bitsAllocated }) => {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const perSample = bitsAllocated / 8;
  const planes = channels * perSample;
  if (bytes.length < 64 || view.getUint32(0, true) !== planes) throw cutOff('DICOM');
  const count = width * height;
  const out = new Uint8Array(count * planes);
  for (let plane = 0; plane < planes; plane++) {
    const from = view.getUint32(4 + 4 * plane, true);
    const to = plane + 1 < planes ? view.getUint32(8 + 4 * plane, true) : bytes.length;
    const channel = Math.floor(plane / perSample);
    const byte = perSample - 1 - (plane % perSample);
    unpackRuns(bytes.subarray(from, to), out, channel * perSample + byte, planes, count);
  }
  return out;
};

function unpackRuns(runs: Uint8Array, out: Uint8Array, start: number, step: number, count: number): void {
  let at = 0;
  let done = 0;
  while (done < count) {
    if (at >= runs.length) throw cutOff('DICOM');
    const control = runs[at++];
    if (control === 128) continue;
    const literal = control < 128;
    const length = literal ? control + 1 : 257 - control;
    for (let i = 0; i < length && done < count; i++) {
      const from = literal ? at + i : at;
      if (from >= runs.length) throw cutOff('DICOM');
      out[start + done++ * step] = runs[from];
    }
    at += literal ? length : 1;
  }
}

/** By transfer syntax. JPEG extended 12 bit (.51) is missing: there is no decoder for it. */
export const decoders: Record<string, Decoder> = {
  '1.2.840.10008.1.2.4.50': jpegBaseline,
  '1.2.840.10008.1.2.4.57': jpegLossless,
  '1.2.840.10008.1.2.4.70': jpegLossless,
  '1.2.840.10008.1.2.4.80': jpegLs,
  '1.2.840.10008.1.2.4.81': jpegLs,
  '1.2.840.10008.1.2.4.90': jpeg2000,
  '1.2.840.10008.1.2.4.91': jpeg2000,
  '1.2.840.10008.1.2.5': runLength
};
