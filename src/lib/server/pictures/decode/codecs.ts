import { createRequire } from 'node:module';
import sharp from 'sharp';
import { fromPlanes } from './colour';
import { NoLosslessJpeg, decodeLosslessJpeg } from './jpegLossless';
import { withColourMark } from './jpegMarks';
import { Unusable, cutOff, mostPixels } from './opened';

const require = createRequire(import.meta.url);

export interface FrameShape {
  width: number;
  height: number;
  channels: 1 | 3;
  bitsAllocated: 8 | 16;
  /** Whether colours are coded as they are, and not as brightness and two differences. */
  rgb: boolean;
}

/** What came out of compressed bytes: its own shape, which is not always what the file's header says. */
interface Decoded {
  width: number;
  height: number;
  channels: number;
  bits: number;
  /** Little endian, one or two bytes a sample, colour by pixel. */
  bytes: Uint8Array;
}
type Decoder = (bytes: Uint8Array, shape: FrameShape) => Promise<Decoded>;

interface WasmDecoder {
  getEncodedBuffer(length: number): Uint8Array;
  decode(): void;
  getDecodedBuffer(): Uint8Array;
  getFrameInfo(): { width: number; height: number; bitsPerSample: number; componentCount: number };
  getInterleaveMode?(): number;
  delete(): void;
}
type WasmModule = Record<string, new () => WasmDecoder>;

/** A decoder keeps the memory it once took: after a picture of more than this it is let go. */
const heldBytes = 64 * 1024 * 1024;
const modules = new Map<string, Promise<WasmModule>>();

/** The package's WebAssembly build, which takes a seventh of the time of its JavaScript one. */
function wasmModule(name: string): Promise<WasmModule> {
  const known = modules.get(name);
  if (known) return known;
  const loading = require(`@cornerstonejs/${name}/decodewasmjs`)({
    locateFile: () => require.resolve(`@cornerstonejs/${name}/decodewasm`),
    print: () => {},
    printErr: () => {}
  }) as Promise<WasmModule>;
  modules.set(name, loading);
  return loading;
}

async function throughWasm(name: string, kind: string, packed: Uint8Array): Promise<Decoded> {
  const decoder = new (await wasmModule(name))[kind]();
  try {
    decoder.getEncodedBuffer(packed.length).set(packed);
    decoder.decode();
    const { width, height, bitsPerSample, componentCount } = decoder.getFrameInfo();
    const decoded = Uint8Array.from(decoder.getDecodedBuffer());
    if (decoded.length > heldBytes) modules.delete(name);
    const inPlanes = decoder.getInterleaveMode?.() === 0 && componentCount > 1;
    const bytes = inPlanes ? fromPlanes(decoded, componentCount, bitsPerSample > 8 ? 2 : 1) : decoded;
    return { width, height, channels: componentCount, bits: bitsPerSample, bytes };
  } catch {
    // What broke off over damaged bytes is not used again.
    modules.delete(name);
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
  return throughWasm('codec-charls', 'JpegLSDecoder', bytes.subarray(0, end));
};

const jpeg2000: Decoder = (bytes) => throughWasm('codec-openjpeg', 'J2KDecoder', bytes);

const jpegLossless: Decoder = async (bytes) => {
  try {
    const { width, height, channels, precision, samples } = decodeLosslessJpeg(bytes);
    const packedSamples = precision > 8 ? samples : Uint8Array.from(samples);
    return { width, height, channels, bits: precision, bytes: new Uint8Array(packedSamples.buffer) };
  } catch (error) {
    if (error instanceof NoLosslessJpeg) throw cutOff('DICOM');
    throw error;
  }
};

const jpegBaseline: Decoder = async (bytes, shape) => {
  try {
    const marked = shape.channels === 3 ? withColourMark(bytes, shape.rgb) : bytes;
    const image = sharp(marked, { limitInputPixels: mostPixels, failOn: 'warning' });
    const { data, info } = await image
      .toColourspace(shape.channels === 1 ? 'b-w' : 'srgb')
      .raw()
      .toBuffer({ resolveWithObject: true });
    return { ...info, bits: 8, bytes: data };
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
  return { width, height, channels, bits: bitsAllocated, bytes: out };
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
const decoders: Record<string, Decoder> = {
  '1.2.840.10008.1.2.4.50': jpegBaseline,
  '1.2.840.10008.1.2.4.57': jpegLossless,
  '1.2.840.10008.1.2.4.70': jpegLossless,
  '1.2.840.10008.1.2.4.80': jpegLs,
  '1.2.840.10008.1.2.4.81': jpegLs,
  '1.2.840.10008.1.2.4.90': jpeg2000,
  '1.2.840.10008.1.2.4.91': jpeg2000,
  '1.2.840.10008.1.2.5': runLength
};

export const canDecode = (syntax: string): boolean => syntax in decoders;

const differs = (coded: string, said: string) =>
  new Unusable(
    'contradicts-itself',
    `This DICOM file contradicts itself: its compressed picture has ${coded}, its header says ${said}.`,
    'Ask the sender for it again; it would be shown wrong.'
  );

/**
 * Decoded samples as little-endian bytes, colour by pixel, exactly as long as the frame's shape says.
 * @throws Unusable when the bytes are damaged or are another picture than the header describes
 */
export async function decodedFrame(
  syntax: string,
  bytes: Uint8Array,
  shape: FrameShape
): Promise<Uint8Array> {
  const { width, height, channels, bitsAllocated } = shape;
  const found = await decoders[syntax](bytes, shape);
  if (found.width !== width || found.height !== height)
    throw differs(`${found.width} x ${found.height} pixels`, `${width} x ${height}`);
  if (found.channels !== channels)
    throw differs(`${found.channels} ${found.channels === 1 ? 'channel' : 'channels'}`, `${channels}`);
  if (found.bits > bitsAllocated) throw differs(`${found.bits} bits a sample`, `${bitsAllocated}`);
  const count = width * height * channels;
  if (found.bytes.length < count * (found.bits > 8 ? 2 : 1)) throw cutOff('DICOM');
  if (bitsAllocated === 16 && found.bits <= 8) {
    const out = new Uint8Array(2 * count);
    for (let i = 0; i < count; i++) out[2 * i] = found.bytes[i];
    return out;
  }
  return found.bytes;
}
