import { PDFDocument } from 'pdf-lib';
import { describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { paperChange, titleOfFile } from '../../core/papers/paper';
import { sequelize } from '../database/connection';
import { newId } from '../ids';
import type { Caller } from '../people/caller';
import { chart } from '../visits/patients';
import { storySeen } from '../visits/story';
import { addPaper, changePaper, paperFile } from './papers';

const clinic = useClinic();

async function pdf(pages: number, mark = ''): Promise<Buffer> {
  const paper = await PDFDocument.create();
  paper.setTitle(mark);
  for (let i = 0; i < pages; i++) paper.addPage();
  return Buffer.from(await paper.save());
}
async function* inPieces(bytes: Buffer) {
  for (let at = 0; at < bytes.length; at += 500) yield bytes.subarray(at, at + 500);
}
const lay = (visitId: string, bytes: Buffer, more: { fileName?: string; key?: string; as?: Caller } = {}) =>
  addPaper(more.as ?? clinic.caller(), {
    visitId,
    fileName: more.fileName ?? 'Letter.pdf',
    key: more.key ?? newId(),
    body: inPieces(bytes)
  });
const papersOf = async (visitId: string) => (await storySeen(clinic.caller(), visitId)).papers;
async function bytesOf(paperId: string, as = clinic.caller()): Promise<Buffer> {
  const { bytes } = await paperFile(as, paperId);
  return Buffer.from(await new Response(bytes).arrayBuffer());
}

describe('a paper that is brought in', () => {
  it('lies with the visit’s story and in the chart, bit for bit, with its pages counted', async () => {
    const visitId = await clinic.newVisit();
    const bytes = await pdf(3, 'as it came');
    const { paperId, remarks } = await lay(visitId, bytes, { fileName: 'From the harbour nurse.pdf' });
    expect(remarks).toEqual([]);
    const [paper] = await papersOf(visitId);
    expect(paper).toMatchObject({
      paperId,
      title: 'From the harbour nurse',
      pages: 3,
      bytes: bytes.length,
      addedBy: clinic.caller().name,
      putAwayBy: null
    });
    expect(Buffer.compare(await bytesOf(paperId), bytes)).toBe(0);
    const { papers } = await chart(clinic.caller(), clinic.patientId);
    expect(papers.map((each) => each.paperId)).toContain(paperId);
  });

  it('is laid there once, offered again with its key or as the same file', async () => {
    const visitId = await clinic.newVisit();
    const [bytes, key] = [await pdf(1, 'once'), newId()];
    const first = await lay(visitId, bytes, { key });
    expect(await lay(visitId, bytes, { key })).toEqual({ paperId: first.paperId, remarks: [] });
    const again = await lay(visitId, bytes, { fileName: 'Copy.pdf' });
    expect(again).toEqual({
      paperId: first.paperId,
      remarks: ['This same paper lies here already, as “Letter”.']
    });
    await Promise.all([1, 2, 3].map(() => lay(visitId, bytes)));
    expect(await papersOf(visitId)).toHaveLength(1);
    // In another visit it is another paper.
    const elsewhere = await clinic.newVisit();
    await lay(elsewhere, bytes);
    expect(await papersOf(elsewhere)).toHaveLength(1);
  });

  it('is named, put away and brought back, and never leaves the records', async () => {
    const visitId = await clinic.newVisit();
    const { paperId } = await lay(visitId, await pdf(2, 'changed'));
    const change = (body: unknown, as = clinic.caller()) =>
      changePaper(as, paperId, newId(), paperChange.parse(body));
    await change({ kind: 'named', title: '  Report of the other house ' });
    await change({ kind: 'put away' }, clinic.caller('front-desk'));
    expect((await papersOf(visitId))[0]).toMatchObject({
      title: 'Report of the other house',
      putAwayBy: 'The front-desk'
    });
    const { papers } = await chart(clinic.caller(), clinic.patientId);
    expect(papers.map((each) => each.paperId)).not.toContain(paperId);
    // One that was put away can lie there anew; the old one still opens.
    expect((await bytesOf(paperId)).length).toBeGreaterThan(100);
    await change({ kind: 'brought back' });
    expect((await papersOf(visitId))[0].putAwayBy).toBeNull();
    await expect(sequelize().query('delete from paper')).rejects.toThrow(/permission denied/);
    await expect(sequelize().query(`update paper set sha256 = ''`)).rejects.toThrow(/permission denied/);
  });

  it('goes with its visit to whom the visit belongs', async () => {
    const visitId = await clinic.newVisit();
    const { paperId } = await lay(visitId, await pdf(1, 'moves'));
    const other = await clinic.newPatient('Brine', 'Tamsel', 'REC-PAPER');
    await clinic.owner.query('update visit set patient_id = $2 where visit_id = $1', [visitId, other]);
    expect((await chart(clinic.caller(), other)).papers.map((each) => each.paperId)).toEqual([paperId]);
  });

  it('is neither seen nor changed by another clinic, nor brought in by an administrator', async () => {
    const visitId = await clinic.newVisit();
    const { paperId } = await lay(visitId, await pdf(1, 'ours'));
    await expect(bytesOf(paperId, clinic.stranger)).rejects.toMatchObject({ status: 404 });
    await expect(changePaper(clinic.stranger, paperId, newId(), { kind: 'put away' })).rejects.toMatchObject({
      status: 404
    });
    await expect(lay(visitId, await pdf(1), { as: clinic.stranger })).rejects.toMatchObject({ status: 404 });
    await expect(lay(visitId, await pdf(1), { as: clinic.caller('administrator') })).rejects.toMatchObject({
      status: 403
    });
    await expect(bytesOf('no-such-paper')).rejects.toMatchObject({ status: 404 });
  });
});

describe('what is no paper', () => {
  it('is refused in words with what to do, and leaves nothing behind', async () => {
    const visitId = await clinic.newVisit();
    const whole = await pdf(4, 'whole');
    const plain = await PDFDocument.create();
    for (let i = 0; i < 30; i++) plain.addPage();
    const long = Buffer.from(await plain.save({ useObjectStreams: false }));
    const locked = Buffer.from(
      long.toString('latin1').replace(/trailer\s*<</, '$&\n/Encrypt 1 0 R'),
      'latin1'
    );
    const cases: [Buffer, RegExp][] = [
      [Buffer.alloc(0), /empty/],
      [Buffer.from('GIF89a, not a paper'), /not a PDF/],
      [Buffer.from('%PDF-1.7\nand then nothing'), /cut off or damaged/],
      [whole.subarray(0, 200), /cut off or damaged/],
      [long.subarray(0, Math.round(0.7 * long.length)), /cut off or damaged/],
      [locked, /password/]
    ];
    for (const [bytes, words] of cases)
      await expect(lay(visitId, bytes)).rejects.toMatchObject({
        status: 422,
        sentence: expect.stringMatching(words) as string,
        next: expect.stringMatching(/\w{5}/) as string
      });
    expect(await papersOf(visitId)).toEqual([]);
    // The next sound one goes through.
    await lay(visitId, whole);
    expect(await papersOf(visitId)).toHaveLength(1);
  });
  it('has no empty name, and a name of its own when its file has none', () => {
    expect(paperChange.safeParse({ kind: 'named', title: '   ' }).success).toBe(false);
    expect(paperChange.safeParse({ kind: 'burnt' }).success).toBe(false);
    expect(titleOfFile('Report 3.PDF')).toBe('Report 3');
    expect(titleOfFile('.pdf')).toBe('A paper');
  });
});
