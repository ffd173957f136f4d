import { execFileSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import type { GuideResult } from '../../core/measurement/guides/evaluate';
import { postureFigure } from '../../core/report/postureFigure';
import type { ResultsPaper } from '../../core/report/resultsPaper';
import { resultsPdf } from './resultsPdf';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'results-'));
afterAll(() => fs.rmSync(folder, { recursive: true }));

const line = (name: string, more: Partial<ResultsPaper['guides'][number]['lines'][number]> = {}) => ({
  key: name,
  name,
  value: '24.1 ± 1.2°',
  stage: '',
  range: '13 to 30°: within',
  isOutside: false,
  change: '',
  course: [],
  limits: { low: 13, high: 30 },
  ...more
});
const paper = (lines: number): ResultsPaper => ({
  guides: [
    {
      set: 'one',
      name: 'Distal radius',
      done: '4 Mar 2026, prepared by Mara Fennick.',
      warning: 'No clinician has confirmed it yet.',
      figure: null,
      pictures: [{ pictureId: 'p', name: 'Wrist from the front' }],
      since: '1 Feb 2026',
      lines: [
        line('Radial inclination', {
          change: '-2.1 ± 1.5°',
          course: [
            { takenAt: '2026-02-01T10:00:00Z', value: 26.2, plusMinus: 1.1 },
            { takenAt: '2026-03-04T10:00:00Z', value: 24.1, plusMinus: 1.2 }
          ]
        }),
        ...Array.from({ length: lines }, (_, i) => line(`Further ${i + 1}`))
      ],
      remarks: ['Friberg and Lundstrom 1976.']
    }
  ],
  readings: [{ id: 'r', name: 'Gap, Wrist', value: '4.0 ± 0.2 mm', confirmed: 'not confirmed yet' }]
});
const rest = {
  head: {
    title: 'T. Ö.',
    about: '',
    clinic: 'Quill Sound Community Clinic',
    when: 'Bones room, 4 Mar 2026',
    address: '',
    logo: null
  },
  foot: '± is two standard uncertainties.'
};
const small = async () => ({
  p: new Uint8Array(
    await sharp({ create: { width: 60, height: 90, channels: 3, background: '#888' } })
      .webp()
      .toBuffer()
  )
});
function textOf(bytes: Uint8Array): string {
  const file = path.join(folder, `${Math.round(performance.now() * 1000)}.pdf`);
  fs.writeFileSync(file, bytes);
  return execFileSync('pdftotext', ['-layout', file, '-'], { encoding: 'utf8' });
}

describe('results on paper', () => {
  it('can be read out: values, changes, who has to look, every letter', async () => {
    const bytes = await resultsPdf({ ...rest, paper: paper(0), small: await small() });
    const text = textOf(bytes);
    for (const words of [
      'T. Ö.',
      'Quill Sound Community Clinic',
      'Radial inclination',
      '24.1 ± 1.2°',
      '-2.1 ± 1.5°',
      'No clinician has confirmed it yet.',
      'Since 1 Feb 2026',
      'Gap, Wrist',
      'Friberg and Lundstrom 1976.'
    ])
      expect(text, words).toContain(words);
    const document = await PDFDocument.load(bytes);
    expect(document.getTitle()).toBe('Results of T. Ö., Bones room, 4 Mar 2026');
    expect(document.getAuthor()).toBe('Quill Sound Community Clinic');
    expect(document.getPage(0).getSize()).toMatchObject({
      width: expect.closeTo(595, 0),
      height: expect.closeTo(842, 0)
    });
    // The picture is in it, and the fonts are: it looks the same anywhere.
    const raw = Buffer.from(bytes).toString('latin1');
    expect(raw).toContain('/Subtype /Image');
    expect(raw).toMatch(/FontFile[23]/);
    expect(raw).toContain('/Lang (en-GB)');
  });
  it('goes on over sheets, each with its number and the head of the table', async () => {
    const bytes = await resultsPdf({ ...rest, paper: paper(70), small: {} });
    const document = await PDFDocument.load(bytes);
    expect(document.getPageCount()).toBeGreaterThan(1);
    const text = textOf(bytes);
    expect(text).toContain(`1 of ${document.getPageCount()}`);
    expect(text.match(/Over time/g)!.length).toBe(document.getPageCount());
    expect(text).toContain('Further 70');
  });
  it('has the figure of a posture drawn, and says where nothing was measured', async () => {
    const [posture] = paper(0).guides;
    const value = (key: string, unit: 'mm' | 'deg', of: number) =>
      ({
        formula: { key },
        outcome: 'value',
        value: { value: of, plusMinus: 1, unit }
      }) as unknown as GuideResult;
    const figure = postureFigure([
      value('chest left', 'mm', 8),
      value('head left', 'mm', -5),
      ...['pelvis', 'chest', 'head'].map((part) => value(`${part} roll`, 'deg', 3))
    ]);
    expect(figure?.front).not.toBeNull();
    const drawn = await resultsPdf({
      ...rest,
      paper: { ...paper(0), guides: [{ ...posture, figure, pictures: [], lines: [] }] },
      small: {}
    });
    // A sheet with the drawing has more lines on it than one without.
    const bare = await resultsPdf({
      ...rest,
      paper: { ...paper(0), guides: [{ ...posture, figure: null, pictures: [], lines: [] }] },
      small: {}
    });
    expect(drawn.length).toBeGreaterThan(bare.length + 200);
    const nothing = await resultsPdf({
      ...rest,
      paper: { ...paper(0), guides: [], readings: [] },
      small: {}
    });
    expect(textOf(nothing)).toContain('Nothing has been measured in this visit yet.');
  });
});
