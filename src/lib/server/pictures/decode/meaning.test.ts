import { describe, expect, it } from 'vitest';
import { greyTable } from '../../../core/raster/look/table';
import { opened, writings } from './opened.test-data';
import {
  type RawElement,
  type RawPicture,
  type Writing,
  rawFile,
  rawPicture,
  wordBytes
} from './rawFile.test-data';

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
