import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { areaOf, sheetOf } from '../../core/print/paper';
import { type PlacedField, plainField } from '../../core/print/printLayout';
import { correctionOf } from '../../core/print/printer';
import { type PrintSheet, gridSheets, trueSheets } from '../../core/print/printSheets';
import { tilesOf } from '../../core/print/tiles';
import { printPdf } from './printPdf';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'print-'));
afterAll(() => fs.rmSync(folder, { recursive: true }));

const pxPerMm = 5;
/** Black discs on white at places in mm, as another program would draw them. */
function discs(widthMm: number, heightMm: number, at: readonly (readonly [x: number, y: number])[]) {
  const drawn = at.map(([x, y]) => `<circle cx="${x}" cy="${y}" r="1.5"/>`).join('');
  const svg = `<svg xmlns="http://www.w3.org/2000/svg" width="${widthMm * pxPerMm}" height="${heightMm * pxPerMm}" viewBox="0 0 ${widthMm} ${heightMm}"><rect width="100%" height="100%" fill="#fff"/>${drawn}</svg>`;
  return sharp(Buffer.from(svg)).jpeg({ quality: 95 }).toBuffer();
}

const dpi = 300;
interface Found {
  x: number;
  y: number;
  /** Of what is dark, in square mm. */
  area: number;
}
/** Where dark spots of a disc's size stand on the sheets of a PDF, in mm, as Debian's poppler draws it. */
async function spotsOn(bytes: Uint8Array): Promise<Found[][]> {
  const file = path.join(folder, 'print.pdf');
  fs.writeFileSync(file, bytes);
  execFileSync('pdftoppm', ['-r', String(dpi), '-gray', '-png', file, path.join(folder, 'sheet')]);
  const sheets = fs
    .readdirSync(folder)
    .filter((name) => name.startsWith('sheet'))
    .sort();
  const all = [];
  for (const name of sheets) {
    const { data, info } = await sharp(path.join(folder, name))
      .greyscale()
      .raw()
      .toBuffer({ resolveWithObject: true });
    fs.rmSync(path.join(folder, name));
    all.push(spots(data, info.width, info.height));
  }
  return all;
}

function spots(data: Uint8Array, width: number, height: number): Found[] {
  const seen = new Uint8Array(width * height);
  const found: Found[] = [];
  for (let start = 0; start < data.length; start++) {
    if (seen[start] || data[start] > 128) continue;
    let [sumX, sumY, count] = [0, 0, 0];
    const open = [start];
    seen[start] = 1;
    while (open.length > 0) {
      const i = open.pop()!;
      const [x, y] = [i % width, Math.floor(i / width)];
      sumX += x + 0.5;
      sumY += y + 0.5;
      count++;
      for (const next of [x > 0 ? i - 1 : i, x < width - 1 ? i + 1 : i, i - width, i + width])
        if (next >= 0 && next < width * height && !seen[next] && data[next] <= 128) {
          seen[next] = 1;
          open.push(next);
        }
    }
    const mm = 25.4 / dpi;
    found.push({ x: (sumX / count) * mm, y: (sumY / count) * mm, area: count * mm * mm });
  }
  const disc = Math.PI * 1.5 ** 2;
  return found.filter(({ area }) => Math.abs(area - disc) < 0.15 * disc);
}

const head = {
  title: 'C. D.',
  about: '67 years',
  clinic: 'Quill Sound',
  when: 'Bones room',
  address: '',
  logo: null
};
const printed = async (
  sheets: PrintSheet[],
  jpeg: Uint8Array,
  { sheet = sheetOf('A4', false), correction = correctionOf(null), ruler = true } = {}
) =>
  (
    await printPdf({
      sheet,
      correction,
      sheets,
      pictures: { p: { jpeg, caption: ['Wrist'] } },
      head,
      foot: 'Print at 100 %.',
      ruler
    })
  ).bytes;
const between = (a: Found, b: Found) => Math.hypot(a.x - b.x, a.y - b.y);

describe('a picture printed true to scale', () => {
  it('has its lengths within 0.2 mm, across, upright and aslant', async () => {
    const at = [
      [10, 10],
      [100, 10],
      [10, 160],
      [90, 140]
    ] as const;
    const sheets = trueSheets([{ key: 'p', size: { width: 110, height: 168 } }], sheetOf('A4', false), true);
    const [found] = await spotsOn(await printed(sheets, await discs(110, 168, at)));
    expect(found).toHaveLength(4);
    const places = found.map((spot) => {
      const [x, y] = [spot.x - sheets[0].placed[0].at.left, spot.y - sheets[0].placed[0].at.top];
      return at.findIndex(([ax, ay]) => Math.hypot(x - ax, y - ay) < 0.2);
    });
    expect(places.toSorted()).toEqual([0, 1, 2, 3]);
    for (const i of [0, 1, 2, 3])
      for (const k of [0, 1, 2, 3]) {
        const [a, b] = [found[places.indexOf(i)], found[places.indexOf(k)]];
        const truth = Math.hypot(at[i][0] - at[k][0], at[i][1] - at[k][1]);
        expect(Math.abs(between(a, b) - truth)).toBeLessThan(0.2);
      }
  });

  it('goes over sheets that fit together: each disc where the others have it', async () => {
    const size = { width: 300, height: 400 };
    const at = [
      [20, 20],
      [150, 200],
      [280, 380],
      [150, 60]
    ] as const;
    const sheet = sheetOf('A4', false);
    const sheets = trueSheets([{ key: 'p', size }], sheet, false);
    const all = await spotsOn(await printed(sheets, await discs(300, 400, at), { ruler: false }));
    expect(sheets).toHaveLength(4);
    const seen = new Set<number>();
    all.forEach((found, i) => {
      const { at: place, part } = sheets[i].placed[0];
      for (const spot of found) {
        const x = spot.x - place.left + part.left * size.width;
        const y = spot.y - place.top + part.top * size.height;
        const which = at.findIndex(([ax, ay]) => Math.hypot(x - ax, y - ay) < 0.2);
        expect(which).toBeGreaterThanOrEqual(0);
        seen.add(which);
      }
    });
    expect(seen.size).toBe(4);
    // One stands in the overlap, on both sheets of its row.
    expect(all.flat().length).toBeGreaterThan(4);
    expect(tilesOf(size, { width: 190, height: 247 })).toHaveLength(4);
  });

  it('is asked larger of a printer that prints short, so that it comes out true there', async () => {
    const at = [
      [10, 10],
      [90, 10],
      [10, 90]
    ] as const;
    const sheets = trueSheets([{ key: 'p', size: { width: 100, height: 100 } }], sheetOf('A4', false), false);
    const printer = { acrossMm: 98, downMm: 101 };
    const bytes = await printed(sheets, await discs(100, 100, at), { correction: correctionOf(printer) });
    const [found] = await spotsOn(bytes);
    const sorted = found.toSorted((a, b) => a.x + a.y - b.x - b.y);
    const [corner, ...rest] = sorted;
    const [right, below] = rest[0].x > rest[1].x ? rest : rest.toReversed();
    expect(Math.abs(((right.x - corner.x) * printer.acrossMm) / 100 - 80)).toBeLessThan(0.2);
    expect(Math.abs(((below.y - corner.y) * printer.downMm) / 100 - 80)).toBeLessThan(0.2);
  });
});

it.each([
  ['A4', 210, 297],
  ['A5', 148, 210],
  ['Letter', 215.9, 279.4]
] as const)(
  'a print on %s has sheets of that size, its words and a ruler of a whole length',
  async (paper, width, height) => {
    const sheets = trueSheets([{ key: 'p', size: { width: 40, height: 40 } }], sheetOf(paper, false), true);
    const file = path.join(folder, 'size.pdf');
    fs.writeFileSync(file, await printed(sheets, await discs(40, 40, []), { sheet: sheetOf(paper, false) }));
    const size = /Page size: +([\d.]+) x ([\d.]+)/.exec(execFileSync('pdfinfo', [file]).toString())!;
    expect(Math.abs((Number(size[1]) / 72) * 25.4 - width)).toBeLessThan(0.05);
    expect(Math.abs((Number(size[2]) / 72) * 25.4 - height)).toBeLessThan(0.05);
    const words = execFileSync('pdftotext', ['-layout', file, '-']).toString();
    for (const each of [
      'C. D.',
      'Wrist',
      'Print at 100 %.',
      paper === 'A5' ? '50 mm, across' : '100 mm, across'
    ])
      expect(words).toContain(each);
  }
);

/** Where words stand on the first sheet, in mm from its left and upper edge. */
function wordsOn(
  bytes: Uint8Array
): { word: string; left: number; right: number; top: number; foot: number }[] {
  const file = path.join(folder, 'words.pdf');
  fs.writeFileSync(file, bytes);
  const boxes = execFileSync('pdftotext', ['-bbox', '-l', '1', file, '-']).toString();
  const found = boxes.matchAll(/xMin="([\d.]+)" yMin="([\d.]+)" xMax="([\d.]+)" yMax="([\d.]+)">([^<]*)</g);
  return [...found].map((match) => {
    const [left, top, right, foot] = match.slice(1, 5).map((pt) => (Number(pt) / 72) * 25.4);
    return { word: match[5], left, right, top, foot };
  });
}

describe('words of any length', () => {
  const long = 'Wilhelmina Konstantinopolitanskaya '.repeat(6).slice(0, 200).trim();
  const rows = (across: number, down: number, name: string, title: string) => {
    const sheet = sheetOf('A5', false);
    const keys = Array.from({ length: across * down }, (_, i) => String(i));
    const sheets = gridSheets(
      keys.map((key) => ({ key, size: { width: 100, height: 100 } })),
      sheet,
      { across, down, captions: true }
    );
    return discs(20, 20, []).then(async (jpeg) => ({
      sheets,
      sheet,
      bytes: (
        await printPdf({
          sheet,
          correction: correctionOf(null),
          sheets,
          pictures: Object.fromEntries(
            keys.map((key) => [key, { jpeg, caption: [name, '29 Nov 2026, 10:00'] }])
          ),
          head: { ...head, title },
          foot: 'F',
          ruler: false
        })
      ).bytes
    }));
  };

  it('a name of 200 letters is there whole and stays over the pictures', async () => {
    const { bytes, sheet } = await rows(2, 2, 'Wrist', long);
    const words = wordsOn(bytes).filter(({ word }) => long.split(' ').includes(word));
    expect(words.map(({ word }) => word).join(' ')).toBe(long);
    for (const { foot } of words) expect(foot).toBeLessThan(areaOf(sheet).top);
  });

  it.each([
    [2, 3],
    [4, 5],
    [6, 5]
  ])(
    'captions of 80 letters do not run into the next row, %i side by side in %i rows',
    async (across, down) => {
      const { bytes, sheets } = await rows(across, down, long.slice(0, 80), 'C. D.');
      const tops = [...new Set(sheets[0].placed.map(({ at }) => at.top))];
      const captions = sheets[0].placed.map(({ caption }) => caption!.top);
      const words = wordsOn(bytes).filter(({ top }) => top >= Math.min(...captions) - 0.5);
      expect(words.length).toBeGreaterThan(across * down);
      for (const { word, top, foot } of words) {
        if (word === 'F' || (/^\d+$/.test(word) && top > captions.at(-1)! + 9)) continue;
        const next = tops.find((each) => each > top);
        if (next !== undefined) expect(foot).toBeLessThan(next + 0.5);
      }
    }
  );
});

describe('a layout of one’s own', () => {
  const sheet = sheetOf('A4', false);
  const made = async (fields: readonly PlacedField[], correction = correctionOf(null)) =>
    printPdf({
      sheet,
      correction,
      sheets: [{ placed: [], tile: '', marks: [] }],
      pictures: {},
      head: { ...head, title: 'Wilhelmina', address: 'Quay' },
      own: { fields: [...fields], logo: null },
      foot: 'Foot',
      ruler: false
    });

  it('has each thing at its place to half a millimetre, and nothing of the usual head', async () => {
    const { bytes } = await made([
      plainField('patient', { leftMm: 120, topMm: 40, widthMm: 60, pt: 20 }),
      plainField('address', { leftMm: 30, topMm: 200, widthMm: 60, align: 'right' }),
      plainField('words', {
        words: 'Handwritten',
        leftMm: 70,
        topMm: 90,
        widthMm: 80,
        align: 'center',
        font: 'Noto'
      })
    ]);
    const found = new Map(wordsOn(bytes).map((each) => [each.word, each]));
    expect([...found.keys()].toSorted()).toEqual(['Foot', 'Handwritten', 'Quay', 'Wilhelmina']);
    expect(Math.abs(found.get('Wilhelmina')!.left - 120)).toBeLessThan(0.5);
    expect(Math.abs(found.get('Quay')!.right - 90)).toBeLessThan(0.5);
    const { left, right } = found.get('Handwritten')!;
    expect(Math.abs((left + right) / 2 - 110)).toBeLessThan(0.5);
    // A box of letters begins where they were put, whatever their height.
    expect(Math.abs(found.get('Wilhelmina')!.top - 40)).toBeLessThan(2);
    expect(found.get('Wilhelmina')!.foot - found.get('Wilhelmina')!.top).toBeGreaterThan(
      1.8 * (found.get('Quay')!.foot - found.get('Quay')!.top)
    );
    const file = path.join(folder, 'fonts.pdf');
    fs.writeFileSync(file, bytes);
    expect(execFileSync('pdffonts', [file]).toString()).toMatch(/Noto/);
  });

  it('is drawn in its colour, stretched for a printer that prints short, and tells letters it has not', async () => {
    const words = { words: 'MMMM', leftMm: 20, topMm: 60, widthMm: 150, pt: 40, bold: true };
    const { bytes } = await made([plainField('words', { ...words, colour: '#b3311f' })]);
    const file = path.join(folder, 'colour.pdf');
    fs.writeFileSync(file, bytes);
    execFileSync('pdftoppm', ['-r', '50', '-png', '-singlefile', file, path.join(folder, 'colour')]);
    const { data } = await sharp(path.join(folder, 'colour.png'))
      .removeAlpha()
      .raw()
      .toBuffer({ resolveWithObject: true });
    let red = 0;
    for (let i = 0; i < data.length; i += 3)
      if (
        Math.abs(data[i] - 0xb3) < 6 &&
        Math.abs(data[i + 1] - 0x31) < 6 &&
        Math.abs(data[i + 2] - 0x1f) < 6
      )
        red += 1;
    expect(red).toBeGreaterThan(50);
    const short = await made(
      [plainField('words', { ...words, leftMm: 25 })],
      correctionOf({ acrossMm: 95, downMm: 100 })
    );
    const [{ left }] = wordsOn(short.bytes).filter(({ word }) => word === 'MMMM');
    expect(Math.abs(left - (105 - (80 * 100) / 95))).toBeLessThan(0.7);
    expect((await made([plainField('words', { words: '日本' })])).unwritable).toEqual(['日', '本']);
  });
});
