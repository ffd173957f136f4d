import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { picturesOnPaper, wordsOnPaper } from '../../../../e2e/harness/pdf';
import type { ReportPicture, ReportSection } from '../../core/report/visitReport';
import { showTooth } from '../../core/anatomy/teeth';
import { unwritable } from './paperFonts';
import { type VisitReportWish, visitReportPdf } from './visitReportPdf';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'report-'));
afterAll(() => fs.rmSync(folder, { recursive: true }));

const shown = { pictureId: 'p', frame: 0, look: { steps: [] }, window: null, drawings: [] };
const picture = (key: string): ReportPicture => ({
  key,
  name: `Picture ${key}`,
  lines: ['29 Nov 2026, 10:00'],
  shown: { ...shown, orientation: { quarterTurns: 0, mirrored: false } }
});
const pictures = (count: number): ReportSection => ({
  key: 'tray:t',
  title: 'Full mouth',
  kind: 'pictures',
  entries: Array.from({ length: count }, (_, i) => picture(String(i)))
});
const jpeg = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: '#445566' } })
    .jpeg()
    .toBuffer();

async function made(more: Partial<VisitReportWish>) {
  const { bytes, unwritable: letters } = await visitReportPdf({
    sections: [],
    across: 2,
    head: {
      title: 'T. K.',
      about: '52 years',
      clinic: 'Quill Sound',
      when: 'Teeth room, 29 Nov 2026',
      address: '',
      logo: null
    },
    alert: '',
    foot: 'For the talk.',
    jpegs: {},
    small: {},
    ...more
  });
  const file = path.join(folder, 'report.pdf');
  fs.writeFileSync(file, bytes);
  const run = (tool: string, ...args: string[]) => execFileSync(tool, [...args, file]).toString();
  return {
    letters,
    text: wordsOnPaper(file),
    info: run('pdfinfo'),
    fonts: run('pdffonts').split('\n').slice(2).filter(Boolean),
    /** Where each picture stands: how wide and high in mm, by its resolution there. */
    placed: picturesOnPaper(file)
  };
}

describe('a report on paper', () => {
  it.each([
    [1, 174],
    [2, 84.5],
    [3, 54.7],
    [4, 39.8]
  ])('has %i pictures side by side, each as wide as its column and none cut off', async (across, wide) => {
    const wideOne = await jpeg(600, 400);
    const { placed } = await made({
      across,
      sections: [pictures(4)],
      jpegs: Object.fromEntries(['0', '1', '2', '3'].map((key) => [key, wideOne]))
    });
    expect(placed).toHaveLength(4);
    for (const { widthMm, heightMm } of placed) {
      expect(Math.abs(widthMm - wide)).toBeLessThan(1.2);
      expect(Math.abs(widthMm / heightMm - 1.5)).toBeLessThan(0.02);
    }
  });

  it('keeps a high picture on its sheet, with its words', async () => {
    const { placed, text, info } = await made({
      across: 1,
      sections: [pictures(1)],
      jpegs: { 0: await jpeg(300, 1200) }
    });
    expect(placed[0].heightMm).toBeLessThanOrEqual(201);
    expect(text).toContain('Picture 0');
    expect(info).toMatch(/Pages: +1\b/);
  });

  it('says in the place of a picture that could not be read that it is missing', async () => {
    const { text, placed } = await made({ sections: [pictures(2)], jpegs: { 0: await jpeg(60, 40) } });
    expect(text).toContain('This picture could not be read.');
    expect(text).toContain('Picture 1');
    expect(placed).toHaveLength(1);
  });

  it('writes every letter that a shipped font has, has its fonts in it, and tells of letters that none has', async () => {
    const names = 'Łukasz Őry, Ελένη Νικολάου, Иван Ґедзь, Đặng Văn';
    const { text, fonts, letters } = await made({
      alert: names,
      sections: [
        {
          key: 'story',
          title: 'The visit',
          kind: 'words',
          entries: [{ key: 'why', name: 'Why', text: '山田 שרה' }]
        }
      ]
    });
    expect(text.replace(/\s+/g, ' ')).toContain(names);
    expect(fonts.length).toBeGreaterThan(3);
    // The column that says whether a font is in the file.
    for (const font of fonts) expect(font).toMatch(/ yes (yes|no) (yes|no) +\d+ +\d+$/);
    expect(letters.toSorted()).toEqual([...'山田שרה'].toSorted());
    expect(text).toMatch(/\?\? \?\?\?/);
  });

  it('has title and language, is tagged, and is named by what its head says alone', async () => {
    const { info } = await made({ sections: [pictures(1)] });
    expect(info).toMatch(/Title: +Report of T\. K\., Teeth room, 29 Nov 2026/);
    expect(info).toMatch(/Tagged: +yes/);
    expect(info).not.toMatch(/Keywords: +\S|Subject: +\S/);
  });
});

it('finds no letter missing in plain words, signs and marks that are put together', () => {
  // Teeth in Palmer's notation, whatever their quarter.
  expect(unwritable([16, 26, 36, 46, 55].map((tooth) => showTooth(tooth, 'palmer')).join(''))).toEqual([]);
  expect(unwritable('28.7 ± 1.1 mm, 45°, “Før” – e\u0301 …')).toEqual([]);
});
