import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { areaOf, sheetOf } from '../../core/print/paper';
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

/** Where words stand on the first sheet, in mm from its upper edge. */
function wordsOn(bytes: Uint8Array): { word: string; top: number; foot: number }[] {
  const file = path.join(folder, 'words.pdf');
  fs.writeFileSync(file, bytes);
  const boxes = execFileSync('pdftotext', ['-bbox', '-l', '1', file, '-']).toString();
  return [...boxes.matchAll(/yMin="([\d.]+)" xMax="[\d.]+" yMax="([\d.]+)">([^<]*)</g)].map((match) => ({
    word: match[3],
    top: (Number(match[1]) / 72) * 25.4,
    foot: (Number(match[2]) / 72) * 25.4
  }));
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
