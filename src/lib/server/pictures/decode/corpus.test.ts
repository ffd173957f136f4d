import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { seededRandom } from '../../../core/random';
import { damaged, damagedSamples, damageSources, throughTool as through } from './damage.test-data';
import { Unusable } from './opened';
import { type Found, opened, refusal, samples, writings } from './opened.test-data';
import {
  type RawElement,
  type RawPicture,
  rawFile,
  rawPicture,
  swappedPairs,
  wordBytes
} from './rawFile.test-data';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-corpus-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));
const throughTool = (bytes: Uint8Array, tool: string, ...options: string[]) =>
  through(folder, bytes, tool, ...options);

/** Stored bits as they stand in their word. */
const inWord = (values: number[], stored: number, high: number) =>
  values.map((value) => value << (high + 1 - stored));

describe('DICOM as everybody writes it, bit for bit', () => {
  it('grey of 1 to 16 bits, signed or not, in every native writing', async () => {
    let tried = 0;
    for (const [name, writing] of Object.entries(writings))
      for (const [allocated, stored, high] of [
        [8, 8, 7],
        [8, 5, 6],
        [16, 8, 7],
        [16, 10, 11],
        [16, 12, 11],
        [16, 16, 15]
      ] as const)
        for (const signed of [false, true]) {
          // Sizes that a file read with the wrong representation shows as something else.
          const [width, height] = tried % 2 ? [256, 9] : [37, 512];
          const values = samples(width * height, width, stored, ++tried);
          const words = inWord(values, stored, high);
          const little = writing.littleEndian ?? true;
          const pixels = allocated === 8 ? Uint8Array.from(words) : wordBytes(words, little);
          const file = rawFile(
            rawPicture({ width, height, allocated, stored, high, signed, pixels }),
            writing
          );
          const { raster } = await opened(file);
          const flip = signed ? 2 ** (stored - 1) : 0;
          const shown = `${name}, ${stored} of ${allocated}, ${signed}`;
          expect([raster.width, raster.height, raster.offset], shown).toEqual([width, height, 0 - flip]);
          expect(
            raster.data.every((value, i) => value === (values[i] ^ flip)),
            shown
          ).toBe(true);
        }
  });

  it('eight bits in words of a big endian file, whose bytes change places', async () => {
    const [width, height] = [33, 7];
    const grey = Uint8Array.from(samples(width * height, width, 8, 3));
    const rgb = Uint8Array.from(samples(3 * width * height, width, 8, 4));
    const big = { littleEndian: false };
    const shape = { width, height, allocated: 8, pixelVr: 'OW' } as const;
    const one = await opened(rawFile(rawPicture({ ...shape, pixels: swappedPairs(grey) }), big));
    expect([...one.raster.data]).toEqual([...grey]);
    const three = await opened(
      rawFile(rawPicture({ ...shape, channels: 3, pixels: swappedPairs(rgb) }), big)
    );
    expect([...three.raster.data]).toEqual([...rgb]);
    // Two frames of an odd number of bytes: the second begins in the middle of a word.
    const both = Uint8Array.from([...grey, ...grey.map((value) => 255 - value)]);
    const loop = rawFile(rawPicture({ ...shape, frames: '2', pixels: swappedPairs(both) }), big);
    expect([...(await opened(loop, 1)).raster.data]).toEqual([...grey.map((value) => 255 - value)]);
  });

  it('colours by pixel, by plane, as brightness and differences, and those halved', async () => {
    const [width, height] = [17, 6];
    const count = width * height;
    const rgb = samples(3 * count, width, 8, 5);
    const planes = [0, 1, 2].flatMap((c) => Array.from({ length: count }, (_, i) => rgb[3 * i + c]));
    const shape = { width, height, channels: 3, allocated: 8 } as const;
    for (const writing of Object.values(writings)) {
      const byPixel = await opened(rawFile(rawPicture({ ...shape, pixels: Uint8Array.from(rgb) }), writing));
      expect([...byPixel.raster.data]).toEqual(rgb);
      const byPlane = await opened(
        rawFile(rawPicture({ ...shape, planar: true, pixels: Uint8Array.from(planes) }), writing)
      );
      expect([...byPlane.raster.data]).toEqual(rgb);
    }
    const toRgb = ([y, b, r]: number[]) =>
      [y + 1.402 * (r - 128), y - 0.344136 * (b - 128) - 0.714136 * (r - 128), y + 1.772 * (b - 128)].map(
        (value) => Math.round(Math.min(255, Math.max(0, value)))
      );
    const ybr = samples(3 * count, width, 8, 6);
    const full = await opened(
      rawFile(rawPicture({ ...shape, photometric: 'YBR_FULL', pixels: Uint8Array.from(ybr) }))
    );
    const wanted = Array.from({ length: count }, (_, i) => toRgb(ybr.slice(3 * i, 3 * i + 3))).flat();
    expect(full.raster.data.every((value, i) => Math.abs(value - wanted[i]) <= 1)).toBe(true);
    // 4:2:2: for every two pixels two brightnesses and one pair of differences; the odd last one is padded.
    const rows = Array.from({ length: height }, (_, y) =>
      Array.from({ length: (width + 1) / 2 }, (_, pair) => [
        40 + pair,
        60 + y,
        100 + 3 * pair,
        150 - 2 * y
      ]).flat()
    );
    const halved = await opened(
      rawFile(rawPicture({ ...shape, photometric: 'YBR_FULL_422', pixels: Uint8Array.from(rows.flat()) }))
    );
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const [first, second, b, r] = rows[y].slice(4 * (x >> 1));
        const at = 3 * (y * width + x);
        const colour = toRgb([x % 2 ? second : first, b, r]);
        expect(
          [...halved.raster.data.subarray(at, at + 3)].map((v, c) => Math.abs(v - colour[c]) <= 1)
        ).toEqual([true, true, true]);
      }
  });

  it('every lossless compression that two toolkits write, each depth and colours', async () => {
    const [width, height] = [61, 47];
    const kinds: (Pick<RawPicture, 'allocated' | 'stored' | 'signed' | 'channels'> & { stored: number })[] = [
      { allocated: 8, stored: 8 },
      { allocated: 16, stored: 12 },
      { allocated: 16, stored: 16 },
      { allocated: 16, stored: 12, signed: true },
      { allocated: 8, stored: 8, channels: 3 }
    ];
    const tools: [string, ...string[]][] = [
      ['dcmcrle'],
      ['dcmcjpeg', '+e1'],
      ['dcmcjpeg', '+el'],
      ['dcmcjpls'],
      ['gdcmconv', '--rle'],
      ['gdcmconv', '--jpeg'],
      ['gdcmconv', '--jpegls'],
      ['gdcmconv', '--j2k']
    ];
    const skipped: string[] = [];
    for (const kind of kinds) {
      const channels = kind.channels ?? 1;
      const values = samples(width * height * channels, width * channels, kind.stored, 11);
      const { signed = false, stored } = kind;
      // Signed samples are stored with their sign in every bit above.
      const words = signed
        ? values.map((value) => (value >= 2 ** (stored - 1) ? value - 2 ** stored : value))
        : values;
      const pixels = kind.allocated === 8 ? Uint8Array.from(words) : wordBytes(words);
      const plain = rawFile(rawPicture({ width, height, ...kind, pixels }));
      for (const [tool, ...options] of tools) {
        const shown = `${tool} ${options.join(' ')}, ${stored} of ${kind.allocated}, ${channels} channels, ${signed}`;
        let file: Buffer;
        try {
          file = throughTool(plain, tool, ...options);
        } catch {
          skipped.push(shown);
          continue;
        }
        const flip = signed ? 2 ** (stored - 1) : 0;
        const { raster } = await opened(file);
        expect(raster.offset, shown).toBe(0 - flip);
        const wrong = raster.data.findIndex((value, i) => value !== (values[i] ^ flip));
        expect(wrong, shown).toBe(-1);
      }
    }
    // Run lengths of samples of one byte are all that one of the tools does not write.
    expect(skipped.every((each) => each.startsWith('gdcmconv --rle, 8 of 8'))).toBe(true);
  });

  it('JPEG baseline within two of what the toolkit decodes, grey and both ways of colours', async () => {
    const [width, height] = [64, 48];
    const smooth = (channels: number) =>
      Uint8Array.from({ length: width * height * channels }, (_, i) => {
        const [pixel, c] = [Math.floor(i / channels), i % channels];
        return (
          30 + 3 * (pixel % width) * (c === 0 ? 1 : 0.3) + Math.floor(pixel / width) * (c === 2 ? 2 : 0.5)
        );
      });
    for (const [channels, ...options] of [
      [1, '+eb'],
      [3, '+eb', '+s4'],
      [3, '+eb', '+cr', '+s4']
    ] as const) {
      const plain = rawFile(rawPicture({ width, height, channels, allocated: 8, pixels: smooth(channels) }));
      const file = throughTool(plain, 'dcmcjpeg', ...options);
      const wanted = [...(await opened(throughTool(file, 'dcmdjpeg', '+cn'))).raster.data];
      const found = [...(await opened(file)).raster.data];
      const most = Math.max(...found.map((value, i) => Math.abs(value - wanted[i])));
      // The toolkit stretches a grey picture before it compresses it, so that only what it decodes can be compared.
      if (channels === 1) expect(most, options.join(' ')).toBeLessThanOrEqual(2);
      else {
        const wantedSamples = smooth(3);
        const apart = Math.max(...found.map((value, i) => Math.abs(value - wantedSamples[i])));
        expect(apart, options.join(' ')).toBeLessThanOrEqual(14);
      }
    }
  });
});

describe('DICOM files that contradict themselves or go too far', () => {
  it('are refused with the true reason', async () => {
    const [width, height] = [40, 30];
    const pixels = wordBytes(samples(width * height, width, 12, 21));
    const whole: RawPicture = { width, height, allocated: 16, stored: 12, pixels };
    const plain = rawFile(rawPicture(whole));
    for (const [tool, ...options] of [['dcmcjpls'], ['dcmcjpeg', '+e1'], ['gdcmconv', '--j2k']]) {
      // The compressed picture is larger than the header says: shown, it would be sheared.
      const file = throughTool(plain, tool, ...options);
      const at = file.indexOf(Buffer.from('28001100555302002800', 'hex'));
      expect(at, tool).toBeGreaterThan(0);
      file.writeUInt16LE(width - 2, at + 8);
      expect(await refusal(file), tool).toMatch(/40 x 30 pixels, its header says 38 x 30/);
    }
    const native = (of: Partial<RawPicture>, more: RawElement[] = []) =>
      rawFile(rawPicture({ ...whole, ...of }, more));
    expect(await refusal(native({ width: 65_535, height: 65_535 }))).toMatch(
      /65,535 x 65,535 pixels, more than/
    );
    expect(await refusal(native({ frames: '99999999999' }))).toMatch(
      /says it has 99,999,999,999 frames and holds 1/
    );
    expect(await refusal(native({ photometric: 'HSV' }))).toMatch(/HSV/);
    expect(await refusal(native({ photometric: 'RGB' }))).toMatch(/RGB, 1 of 16/);
    expect(
      await refusal(
        native({}, [
          ['00280100', 'US', [32]],
          ['00280101', 'US', [32]]
        ])
      )
    ).toMatch(/32 bits/);
    const compressed = { ...whole, pixels: { fragments: [Uint8Array.of(1, 2, 3, 4)] } };
    expect(await refusal(rawFile(rawPicture(compressed)))).toMatch(
      /compressed, and its header says uncompressed/
    );
    expect(await refusal(rawFile(rawPicture(whole), { syntax: '1.2.840.10008.1.2.4.103' }))).toMatch(
      /MPEG-4/
    );
    expect(await refusal(rawFile(rawPicture(whole).filter(([tag]) => tag !== '7FE00010')))).toMatch(
      /no picture/
    );
    expect((await opened(native({ frames: 'many' }))).frames).toBe(1);
  });

  it('that are cut off in a lossless JPEG lose no line silently', async () => {
    const [width, height] = [64, 64];
    const pixels = wordBytes(samples(width * height, width, 12, 22));
    const file = throughTool(
      rawFile(rawPicture({ width, height, allocated: 16, stored: 12, pixels })),
      'dcmcjpeg',
      '+e1'
    );
    const found = await opened(file);
    for (const cut of [20, 60, 200, 1500]) {
      const short = Buffer.concat([
        file.subarray(0, file.length - 10 - cut),
        Buffer.from('ffd9feffdde000000000', 'hex')
      ]);
      const outcome = await opened(short).catch((refused: unknown) => refused);
      if (outcome instanceof Error) expect(outcome).toHaveProperty('code', 'cut-off');
      else
        expect(Buffer.from((outcome as Found).raster.data.buffer)).toEqual(
          Buffer.from(found.raster.data.buffer)
        );
    }
  });
});

describe('damaged DICOM files', () => {
  it('are taken where dcmtk still decodes them bit for bit, and refused in words where they are not', async () => {
    const random = seededRandom(41);
    const wanted = damagedSamples();
    const same = (data: ArrayLike<number>) =>
      data.length === wanted.length && wanted.every((value, i) => value === data[i]);
    const sources = (await damageSources(folder)).filter((source) => source.backBy !== null);
    let [theirs, ours] = [0, 0];
    for (let i = 0; i < 210; i++) {
      const source = sources[i % sources.length];
      const file = damaged(source.bytes, random);
      const [tool, ...options] = source.backBy!;
      const decodes = async (bytes: () => Uint8Array) => {
        try {
          return same((await opened(bytes())).raster.data);
        } catch (refused) {
          return refused;
        }
      };
      const toolTakes = (await decodes(() => throughTool(file, tool, ...options))) === true;
      const taken = await decodes(() => file);
      if (taken instanceof Error) expect(taken, `${i} ${source.name}`).toBeInstanceOf(Unusable);
      if (toolTakes) expect(taken, `${i} ${source.name}`).toBe(true);
      theirs += Number(toolTakes);
      ours += Number(taken === true);
    }
    expect(theirs).toBeGreaterThan(30);
    expect(ours).toBeGreaterThanOrEqual(theirs);
  });
});
