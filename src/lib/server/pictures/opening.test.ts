import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { exampleFacts } from '../../core/dicom/objects/exampleFacts.test-data';
import { dataset } from '../../core/dicom/dataset';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import { writeDicomFile } from '../../core/dicom/write';
import { seededRandom } from '../../core/random';
import { samplesFrom } from '../../core/raster/raster';
import type { Problem } from '../problem';
import { openOutsideFile, openOutsideFrame, stopProcesses } from '../work/processes';
import { throughTool as through } from './decode/damage.test-data';
import {
  colour,
  deep,
  dicom,
  grey8,
  greyPng16,
  height,
  raster,
  unplaced,
  width
} from './exampleFiles.test-data';
import { type LevelBytes, unpackedLevel } from './levelBytes';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-files-'));
afterAll(async () => {
  await stopProcesses();
  fs.rmSync(folder, { recursive: true, force: true });
});
const throughTool = (bytes: Buffer, tool: string, ...options: string[]) =>
  through(folder, bytes, tool, ...options);

/** A file through the processes that open files: what it is, and a frame's samples in full. */
async function opened(bytes: Uint8Array, frame = 0) {
  const file = path.join(folder, randomUUID());
  fs.writeFileSync(file, bytes);
  const found = await openOutsideFile(file);
  const levels: LevelBytes[] = frame === 0 ? found.levels : await openOutsideFrame(file, frame);
  const samples = await unpackedLevel(levels.find((each) => each.level === 0)!);
  const { width, height, channels, bitsStored, offset } = found.opened;
  const data = samplesFrom(new Uint8Array(samples), bitsStored);
  return { ...found.opened, raster: { width, height, channels, bitsStored, offset, data } };
}

describe('files that are sound', () => {
  it('PNG and TIFF, 8 and 16 bit, grey and colour, bit for bit', async () => {
    const raw = (data: Uint8Array, channels: 1 | 3) => sharp(data, { raw: { width, height, channels } });
    const tiff16 = await sharp(deep, { raw: { width, height, channels: 1 } })
      .toColourspace('grey16')
      .tiff({ compression: 'lzw' })
      .toBuffer();
    const cases: [Buffer, Uint8Array | Uint16Array, number][] = [
      [await greyPng16(), deep, 16],
      [await raw(grey8, 1).toColourspace('b-w').png().toBuffer(), grey8, 8],
      [await raw(colour, 3).png().toBuffer(), colour, 8],
      [tiff16, deep, 16],
      [await raw(colour, 3).tiff({ compression: 'deflate' }).toBuffer(), colour, 8]
    ];
    for (const [file, samples, bits] of cases) {
      const decoded = await opened(file);
      expect(decoded.raster).toMatchObject({ width, height, bitsStored: bits });
      expect(
        Buffer.from(
          decoded.raster.data.buffer,
          decoded.raster.data.byteOffset,
          decoded.raster.data.byteLength
        )
      ).toEqual(Buffer.from(samples.buffer));
    }
  });

  it('JPEG, upright whatever its orientation mark says', async () => {
    const file = await sharp(colour, { raw: { width, height, channels: 3 } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const decoded = await opened(file);
    expect([decoded.raster.width, decoded.raster.height, decoded.raster.channels]).toEqual([
      height,
      width,
      3
    ]);
  });

  it('DICOM in every lossless syntax that Debian’s tools write, bit for bit', async () => {
    const twelve = Uint16Array.from(deep, (v) => v >> 4);
    const plain = dicom(raster(twelve, 1, 12));
    const written: Record<string, Buffer> = {
      plain,
      'implicit little endian': throughTool(plain, 'dcmconv', '+ti'),
      'big endian': throughTool(plain, 'dcmconv', '+tb'),
      deflated: throughTool(plain, 'dcmconv', '+td'),
      'run length': throughTool(plain, 'dcmcrle'),
      'JPEG lossless': throughTool(plain, 'dcmcjpeg', '+e1'),
      'JPEG lossless, any predictor': throughTool(plain, 'dcmcjpeg', '+el'),
      'JPEG-LS': throughTool(plain, 'dcmcjpls')
    };
    for (const [syntax, file] of Object.entries(written)) {
      const decoded = await opened(file);
      expect(decoded.raster.bitsStored, syntax).toBe(12);
      expect(
        Buffer.from(Uint16Array.from(decoded.raster.data).buffer).equals(Buffer.from(twelve.buffer)),
        syntax
      ).toBe(true);
    }
  });

  it('DICOM with signed samples keeps its meaning by an offset, and colour its colours', async () => {
    const rgb = await opened(dicom(raster(colour, 3, 8)));
    expect(Buffer.from(rgb.raster.data)).toEqual(Buffer.from(colour));
    const rle = await opened(throughTool(dicom(raster(colour, 3, 8)), 'dcmcrle'));
    expect(Buffer.from(rle.raster.data)).toEqual(Buffer.from(colour));
    const signed = raster(
      Uint16Array.from(deep, (v) => v >> 4),
      1,
      12
    );
    const file = dicom(signed, { offset: -2048 });
    const read = await opened(file);
    expect(read.raster.offset).toBe(-2048);
    expect([...read.raster.data]).toEqual([...signed.data]);
    // Minus one is stored with all bits set.
    const minusOne = raster(new Uint16Array(width * height).fill(2047), 1, 12);
    expect(dicom(minusOne, { offset: -2048 }).subarray(-4)).toEqual(Buffer.from([0xff, 0xff, 0xff, 0xff]));
  });

  it('DICOM loops: every frame bit for bit, plain and compressed, with the time between them', async () => {
    const frames = [0, 1, 2, 3].map((n) => Uint8Array.from(grey8, (v) => (v + 60 * n) % 256));
    const loop = dicom(raster(grey8, 1, 8), { frames: 4, frameMs: 40, bytes: Buffer.concat(frames) });
    const written = {
      plain: loop,
      'run length': throughTool(loop, 'dcmcrle'),
      'JPEG lossless': throughTool(loop, 'dcmcjpeg', '+e1'),
      'JPEG-LS': throughTool(loop, 'dcmcjpls')
    };
    for (const [syntax, file] of Object.entries(written))
      for (const [i, frame] of frames.entries()) {
        const read = await opened(file, i);
        expect([read.frames, read.frameMs], syntax).toEqual([4, 40]);
        expect(Buffer.from(read.raster.data).equals(Buffer.from(frame)), `${syntax} frame ${i}`).toBe(true);
      }
    const short = loop.subarray(0, loop.length - 100);
    await expect(opened(short, 3)).rejects.toMatchObject({ code: 'cut-off' });
  });

  it('DICOM coloured by a palette', async () => {
    const entries = 256;
    const table = (of: (i: number) => number) => Uint16Array.from({ length: entries }, (_, i) => of(i) << 8);
    const set = datasetForPicture(
      exampleFacts({
        ...unplaced,
        kind: 'other',
        pixels: { ...exampleFacts().pixels, width, height, bitsStored: 8, bytes: grey8 }
      })
    );
    const palette = dataset(
      {
        PhotometricInterpretation: 'PALETTE COLOR',
        RedPaletteColorLookupTableDescriptor: [entries, 0, 16],
        GreenPaletteColorLookupTableDescriptor: [entries, 0, 16],
        BluePaletteColorLookupTableDescriptor: [entries, 0, 16],
        RedPaletteColorLookupTableData: table((i) => i),
        GreenPaletteColorLookupTableData: table((i) => 255 - i),
        BluePaletteColorLookupTableData: table(() => 7)
      },
      {
        RedPaletteColorLookupTableDescriptor: 'US',
        GreenPaletteColorLookupTableDescriptor: 'US',
        BluePaletteColorLookupTableDescriptor: 'US'
      }
    );
    const tags = new Set(palette.map((element) => element.tag));
    const whole = [...set.filter((element) => !tags.has(element.tag)), ...palette].sort((a, b) =>
      a.tag < b.tag ? -1 : 1
    );
    const read = await opened(writeDicomFile(whole));
    expect(read.channels).toBe(3);
    for (let i = 0; i < grey8.length; i += 97)
      expect([...read.raster.data.subarray(3 * i, 3 * i + 3)]).toEqual([grey8[i], 255 - grey8[i], 7]);
  });
});

describe('files that are not', () => {
  it('are refused in plain words, each with what to do', async () => {
    const png = await greyPng16();
    const whole = dicom(raster(deep, 1, 16));
    const bomb = Buffer.from(png);
    bomb.writeUInt32BE(200_000, 16);
    bomb.writeUInt32BE(200_000, 20);
    const cases: [string, Buffer, RegExp][] = [
      ['empty', Buffer.alloc(0), /empty/],
      ['cut off PNG', png.subarray(0, png.length / 2), /cut off or damaged/],
      ['cut off DICOM', whole.subarray(0, whole.length - 500), /cut off or damaged/],
      ['a web page', Buffer.from('<!DOCTYPE html><html><script>alert(1)</script>'), /a web page/],
      ['a PDF', Buffer.from('%PDF-1.7 something'), /a PDF/],
      ['noise', Buffer.from(Array.from({ length: 4000 }, (_, i) => (i * 37 + 11) % 251)), /unknown kind/],
      ['a header that lies about its size', bomb, /cut off|pixels, more than/],
      [
        '12-bit JPEG',
        throughTool(
          dicom(
            raster(
              Uint16Array.from(deep, (v) => v >> 4),
              1,
              12
            )
          ),
          'dcmcjpeg',
          '+ee'
        ),
        /JPEG extended, 12 bit/
      ]
    ];
    for (const [name, file, words] of cases) {
      const problem = (await opened(file).catch((refused: unknown) => refused)) as Problem;
      expect(problem.sentence, name).toMatch(words);
      expect(problem.next.length, name).toBeGreaterThan(10);
    }
  });

  it('never harm the next one: 160 damaged files, then a sound one', async () => {
    const [png, plain] = [await greyPng16(), dicom(raster(deep, 1, 16))];
    const jpls = throughTool(plain, 'dcmcjpls');
    const rle = throughTool(plain, 'dcmcrle');
    const fate = seededRandom(99);
    let refused = 0;
    for (let i = 0; i < 160; i++) {
      const source = [png, plain, jpls, rle][i % 4];
      const spoilt = Buffer.from(
        source.subarray(0, fate.uniform() < 0.4 ? Math.floor(source.length * fate.uniform()) : source.length)
      );
      for (let flips = 0; flips < 6 && spoilt.length > 0; flips++) {
        spoilt[
          Math.floor(fate.uniform() * Math.min(spoilt.length, fate.uniform() < 0.5 ? 400 : spoilt.length))
        ] ^= 1 << Math.floor(fate.uniform() * 8);
      }
      const result = await opened(spoilt).catch((problem: unknown) => problem);
      if (result instanceof Error) {
        refused++;
        expect(result, String(result)).toHaveProperty('sentence');
      }
    }
    expect(refused).toBeGreaterThan(60);
    expect((await opened(png)).raster.bitsStored).toBe(16);
  });
});
