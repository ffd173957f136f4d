import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { seededRandom } from '../../../core/random';
import type { Raster } from '../../../core/raster/raster';
import { greyTable } from '../../../core/raster/look/table';
import { damaged, damagedSamples, damageSources, throughTool as through } from './damage.test-data';
import { openFile } from './openFile';
import { type OpenedFile, Unusable } from './opened';
import {
  type RawElement,
  type RawPicture,
  type Writing,
  rawFile,
  rawPicture,
  swappedPairs,
  wordBytes
} from './rawFile.test-data';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-corpus-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

interface Found extends OpenedFile {
  raster: Raster;
}
async function opened(bytes: Uint8Array, frame = 0): Promise<Found> {
  const file = await openFile(new Uint8Array(bytes));
  return { ...file.opened, raster: await file.frame(frame) };
}
async function refusal(bytes: Uint8Array): Promise<string> {
  const outcome = await opened(bytes).catch((refused: unknown) => refused);
  if (!(outcome instanceof Unusable)) throw outcome instanceof Error ? outcome : new Error('it was taken');
  return outcome.sentence;
}

const throughTool = (bytes: Uint8Array, tool: string, ...options: string[]) =>
  through(folder, bytes, tool, ...options);

/** Smooth with some noise, so that every codec has something to do; the whole range of the bits is used. */
function samples(count: number, width: number, bits: number, seed: number): number[] {
  const random = seededRandom(seed);
  const top = 2 ** bits;
  return Array.from({ length: count }, (_, i) => {
    const slope = ((i % width) / width + Math.floor(i / width) / 97) * top;
    return Math.floor(slope + 0.05 * top * random.uniform()) % top;
  });
}
/** Stored bits as they stand in their word. */
const inWord = (values: number[], stored: number, high: number) =>
  values.map((value) => value << (high + 1 - stored));

const writings: Record<string, Writing> = {
  'explicit little endian': {},
  'implicit little endian': { explicit: false },
  'explicit big endian': { littleEndian: false },
  deflated: { deflate: true },
  'without preamble': { preamble: false },
  'a bare data set': { preamble: false, meta: false },
  'a bare implicit data set': { preamble: false, meta: false, explicit: false },
  'zeros behind it': { behind: new Uint8Array(700) },
  'padding behind it': {
    behind: Buffer.from('fcfffcff4f4200000400000000000000', 'hex')
  }
};

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
    const own = { width, height, allocated: 8, pixelVr: 'OW' } as const;
    const one = await opened(rawFile(rawPicture({ ...own, pixels: swappedPairs(grey) }), big));
    expect([...one.raster.data]).toEqual([...grey]);
    const three = await opened(rawFile(rawPicture({ ...own, channels: 3, pixels: swappedPairs(rgb) }), big));
    expect([...three.raster.data]).toEqual([...rgb]);
    // Two frames of an odd number of bytes: the second begins in the middle of a word.
    const both = Uint8Array.from([...grey, ...grey.map((value) => 255 - value)]);
    const loop = rawFile(rawPicture({ ...own, frames: '2', pixels: swappedPairs(both) }), big);
    expect([...(await opened(loop, 1)).raster.data]).toEqual([...grey.map((value) => 255 - value)]);
  });

  it('colours by pixel, by plane, as brightness and differences, and those halved', async () => {
    const [width, height] = [17, 6];
    const count = width * height;
    const rgb = samples(3 * count, width, 8, 5);
    const planes = [0, 1, 2].flatMap((c) => Array.from({ length: count }, (_, i) => rgb[3 * i + c]));
    const own = { width, height, channels: 3, allocated: 8 } as const;
    for (const writing of Object.values(writings)) {
      const byPixel = await opened(rawFile(rawPicture({ ...own, pixels: Uint8Array.from(rgb) }), writing));
      expect([...byPixel.raster.data]).toEqual(rgb);
      const byPlane = await opened(
        rawFile(rawPicture({ ...own, planar: true, pixels: Uint8Array.from(planes) }), writing)
      );
      expect([...byPlane.raster.data]).toEqual(rgb);
    }
    const toRgb = ([y, b, r]: number[]) =>
      [y + 1.402 * (r - 128), y - 0.344136 * (b - 128) - 0.714136 * (r - 128), y + 1.772 * (b - 128)].map(
        (value) => Math.round(Math.min(255, Math.max(0, value)))
      );
    const ybr = samples(3 * count, width, 8, 6);
    const full = await opened(
      rawFile(rawPicture({ ...own, photometric: 'YBR_FULL', pixels: Uint8Array.from(ybr) }))
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
      rawFile(rawPicture({ ...own, photometric: 'YBR_FULL_422', pixels: Uint8Array.from(rows.flat()) }))
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
        const own = smooth(3);
        const apart = Math.max(...found.map((value, i) => Math.abs(value - own[i])));
        expect(apart, options.join(' ')).toBeLessThanOrEqual(14);
      }
    }
  });
});

const tiny = (more: RawElement[], of: Partial<RawPicture> = {}) =>
  rawPicture(
    { width: 4, height: 2, allocated: 16, stored: 12, pixels: wordBytes([0, 1, 2, 3, 4, 5, 6, 7]), ...of },
    more
  );
const remarksOf = async (more: RawElement[], of: Partial<RawPicture> = {}, writing: Writing = {}) =>
  (await opened(rawFile(tiny(more, of), writing))).remarks;

describe('what a DICOM file says', () => {
  it('in values of every representation, with and without lengths, in every writing', async () => {
    const every: RawElement[] = [
      ['00080070', 'LO', 'Maker of things'],
      ['00081090', 'LO', 'Model 4'],
      ['00281050', 'DS', '40'],
      ['00281051', 'DS', '80'],
      ['00091010', 'OV', new Uint8Array(16)],
      ['00091011', 'SV', [-5]],
      ['00091012', 'UV', [5]],
      ['00091013', 'UC', 'a text without limits'],
      ['00091014', 'UR', 'https://example.invalid/'],
      ['00091015', 'OL', new Uint8Array(8)],
      ['00091016', 'OD', new Uint8Array(8)],
      ['00091017', 'UN', new Uint8Array(9)],
      ['00091018', 'FD', [1.5]],
      ['00091019', 'AT', [0x0008]],
      ['00081140', 'SQ', { items: [[['00081150', 'UI', '1.2.3']], [['00081155', 'UI', '1.2.4']], []] }],
      ['00540220', 'SQ', { items: [[['00540222', 'SQ', { items: [[['00080100', 'SH', 'deep']]] }]]] }]
    ];
    for (const [name, writing] of Object.entries(writings))
      for (const openLengths of [false, true]) {
        const { origin, firstLook, raster } = await opened(
          rawFile(
            tiny(every, { pixels: wordBytes([0, 1, 2, 3, 4, 5, 6, 7], writing.littleEndian ?? true) }),
            { ...writing, openLengths }
          )
        );
        expect([origin.manufacturer, origin.model], name).toEqual(['Maker of things', 'Model 4']);
        expect(firstLook.steps, name).toEqual([{ kind: 'window', center: 40, width: 80, by: 'linear' }]);
        expect([...raster.data], name).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
        const text = (tag: string) => origin.fileAttributes.find((each) => each.tag === tag)?.text;
        expect([text('00280010'), text('00081140')], name).toEqual(['2', '{ 1.2.3 } { 1.2.4 } {  }']);
        expect(text('00540220'), name).toContain('deep');
      }
  });

  it('in names of every character set, those that are misspelt too', async () => {
    const sets: [said: string, bytes: string, name: string, remarked: boolean][] = [
      ['ISO_IR 100', 'Wavecrest^\xd3dile', 'Wavecrest Ódile', false],
      ['ISO-IR 100', 'Wavecrest^\xd3dile', 'Wavecrest Ódile', false],
      ['ISO IR100', 'Wavecrest^\xd3dile', 'Wavecrest Ódile', false],
      ['ISO_IR 192', 'Wavecrest^\xc3\x93dile', 'Wavecrest Ódile', false],
      ['UTF-8', 'Wavecrest^\xc3\x93dile', 'Wavecrest Ódile', false],
      ['ISO_IR 192\\', 'Wavecrest^\xc3\x93dile', 'Wavecrest Ódile', false],
      ['ISO_IR 144', '\xbb\xee\xda', 'Люк', false],
      ['ISO_IR 126', '\xc4\xe9\xef', 'Διο', false],
      ['GB2312', '\xcd\xf5\xd0\xa1', '王小', false],
      ['GB18030', '\xcd\xf5\xd0\xa1', '王小', false],
      ['ISO 2022 IR 6\\ISO 2022 IR 149', 'Hong^\x1b$)C\xb1\xe6', 'Hong 길', false],
      ['', 'Plain^Name', 'Plain Name', false],
      ['NO_SUCH_SET', 'Wavecrest^\xd3dile', 'Wavecrest Ódile', true]
    ];
    for (const [said, bytes, name, remarked] of sets) {
      const found = await opened(
        rawFile(
          tiny([
            ['00080005', 'CS', said],
            ['00100010', 'PN', bytes]
          ])
        )
      );
      expect(found.patient?.name, said).toBe(name);
      expect(
        found.remarks.some((each) => /character set/.test(each)),
        said
      ).toBe(remarked);
    }
  });

  it('in texts with what no text may hold, which is left out', async () => {
    const found = await opened(
      rawFile(
        tiny([
          ['00080005', 'CS', 'ISO_IR 192'],
          ['00080070', 'LO', 'Ma\0ker\x01\x1b of'],
          ['00081090', 'LO', 'half \xed\xa0\x80 pair'],
          ['00100010', 'PN', 'A\0B^C\0\0']
        ])
      )
    );
    expect(found.origin.manufacturer).toBe('Maker of');
    expect(found.patient?.name).toBe('AB C');
    const texts = JSON.stringify([found.origin, found.patient]);
    expect(texts).not.toMatch(/\\u0000|\\u001b|\\ud8/i);
  });

  it('in numbers: what is none is left out and said, never stored as nothing', async () => {
    for (const [said, wrong] of [
      ['', false],
      ['   ', false],
      ['N/A', true],
      ['1e-320', true],
      ['1e308', true],
      ['1e999', true],
      ['NaN', true],
      ['-5', true],
      ['70', false]
    ] as const) {
      const found = await opened(
        rawFile(
          tiny([
            ['00180060', 'DS', said],
            ['00280030', 'DS', `${said}\\${said}`],
            ['00181114', 'DS', said],
            ['00281050', 'DS', said === '-5' ? 'x' : said],
            ['00281051', 'DS', said],
            ['00181063', 'DS', said]
          ])
        )
      );
      const { kv, pixelSpacing, magnification } = found.origin;
      expect([kv, pixelSpacing?.[0], magnification], said).toEqual(
        said === '70' ? [70, 70, 70] : [undefined, undefined, undefined]
      );
      expect(
        found.remarks.some((each) => /tube voltage .*can’t be right/.test(each)),
        said
      ).toBe(wrong);
      expect(JSON.stringify([found.firstLook, found.origin]), said).not.toContain('null');
    }
  });

  it('of when it was taken: what is no day is said, and nothing is made up', async () => {
    const day = async (more: RawElement[]) => {
      const { takenAt, remarks } = await opened(rawFile(tiny(more)));
      return [takenAt && takenAt.date + takenAt.time, remarks.length];
    };
    expect(
      await day([
        ['00080020', 'DA', '20240229'],
        ['00080030', 'TM', '0830']
      ])
    ).toEqual(['20240229083000', 0]);
    expect(
      await day([
        ['00080020', 'DA', '2024.02.28'],
        ['00080030', 'TM', '08:30:15']
      ])
    ).toEqual(['20240228083015', 0]);
    expect(await day([['0008002A', 'DT', '20230504101112.5+0200']])).toEqual(['20230504101112', 0]);
    expect(
      await day([
        ['00080020', 'DA', '20240229'],
        ['00080030', 'TM', '996199']
      ])
    ).toEqual(['20240229000000', 0]);
    for (const odd of ['20230229', '20241399', '18500101', '99990101', 'soon', ''])
      expect(await day([['00080020', 'DA', odd]]), odd).toEqual([null, 1]);
  });

  it('of drawings in a layer that is not shown, and of an odd high bit', async () => {
    const overlay: RawElement[] = [
      ['60000010', 'US', [2]],
      ['60000011', 'US', [4]],
      ['60003000', 'OW', new Uint8Array(2)]
    ];
    expect(await remarksOf(overlay)).toEqual([expect.stringMatching(/overlay/)]);
    expect(await remarksOf([['00280102', 'US', [40]]])).toEqual([expect.stringMatching(/high bit/)]);
    expect(await remarksOf([])).toEqual([]);
  });
});

describe('how a DICOM file says it is to be seen', () => {
  /** Grey levels of stored values by the definitions of PS3.3 C.11, written down once more. */
  const linear = (x: number, c: number, w: number) =>
    Math.min(1, Math.max(0, (x - (c - 0.5)) / (w - 1) + 0.5));
  const exact = (x: number, c: number, w: number) => Math.min(1, Math.max(0, (x - c) / w + 0.5));
  const sigmoid = (x: number, c: number, w: number) => 1 / (1 + Math.exp((-4 * (x - c)) / w));

  async function greys(more: RawElement[], of: Partial<RawPicture> = {}) {
    const { firstLook, bitsStored, offset, raster } = await opened(rawFile(tiny(more, of)));
    const table = greyTable(firstLook, bitsStored, offset);
    return { of: (sample: number) => table[sample], raster };
  }
  const close = (found: number, wanted: number) =>
    expect(Math.abs(found - 255 * wanted)).toBeLessThanOrEqual(0.51);

  it('by a window of each kind, with rescaling, falling too, signed or not, and white for the least', async () => {
    for (const [by, of] of [
      ['LINEAR', linear],
      ['LINEAR_EXACT', exact],
      ['SIGMOID', sigmoid]
    ] as const)
      for (const [slope, intercept] of [
        [1, 0],
        [2.5, -1000],
        [-1, 4095],
        [0.25, 10]
      ])
        for (const [signed, photometric] of [
          [false, 'MONOCHROME2'],
          [true, 'MONOCHROME1']
        ] as const) {
          const [center, width] = [slope * 900 + intercept, Math.abs(slope) * 700];
          const look = await greys(
            [
              ['00281050', 'DS', String(center)],
              ['00281051', 'DS', String(width)],
              ['00281056', 'CS', by],
              ['00281052', 'DS', String(intercept)],
              ['00281053', 'DS', String(slope)]
            ],
            { signed, photometric }
          );
          for (const stored of [0, 300, 640, 899, 900, 901, 1200, 1260, 2000]) {
            const wanted = of(slope * stored + intercept, center, width);
            close(look.of(stored + (signed ? 2048 : 0)), photometric === 'MONOCHROME1' ? 1 - wanted : wanted);
          }
        }
  });

  it('by a table of values of interest, also over rescaled values', async () => {
    const entries = Array.from({ length: 256 }, (_, i) => Math.round(65_535 * (i / 255) ** 2));
    for (const [slope, intercept] of [
      [1, 0],
      [1, -100],
      [0.5, 20]
    ]) {
      const table: RawElement[] = [
        ['00283002', 'US', [256, 50, 16]],
        ['00283006', 'OW', wordBytes(entries)]
      ];
      const look = await greys([
        ['00283010', 'SQ', { items: [table] }],
        ['00281052', 'DS', String(intercept)],
        ['00281053', 'DS', String(slope)]
      ]);
      for (const stored of [0, 40, 100, 151, 250, 306, 400, 700, 4095]) {
        const at = Math.min(255, Math.max(0, Math.round(slope * stored + intercept) - 50));
        close(look.of(stored), entries[at] / 65_535);
      }
    }
  });

  it('by a table of modality values, whose entries are the picture’s samples then', async () => {
    const entries = Array.from({ length: 8 }, (_, i) => 900 - 100 * i);
    for (const signed of [false, true]) {
      const first = signed ? -4 : 1;
      const stored = signed ? [-6, -4, -3, 0, 1, 2, 3, 9] : [0, 1, 2, 3, 4, 7, 8, 100];
      const { raster } = await greys(
        [
          [
            '00283000',
            'SQ',
            {
              items: [
                [
                  ['00283002', signed ? 'SS' : 'US', [8, first, 10]],
                  ['00283006', 'OW', wordBytes(entries)]
                ]
              ]
            }
          ]
        ],
        { signed, pixels: wordBytes(stored) }
      );
      expect([...raster.data]).toEqual(stored.map((v) => entries[Math.min(7, Math.max(0, v - first))]));
      expect([raster.bitsStored, raster.offset]).toEqual([10, 0]);
    }
  });

  it('with pixels that are not square, by their spacing or their ratio', async () => {
    const aspect = async (more: RawElement[]) => (await opened(rawFile(tiny(more)))).origin.pixelAspect;
    expect(await aspect([['00280034', 'IS', '4\\3']])).toBeCloseTo(4 / 3);
    expect(await aspect([['00280030', 'DS', '0.2\\0.1']])).toBe(2);
    expect(
      await aspect([
        ['00280030', 'DS', '0.1\\0.1'],
        ['00280034', 'IS', '4\\3']
      ])
    ).toBeUndefined();
    expect(await aspect([['00280034', 'IS', '1\\0']])).toBeUndefined();
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
