import { execFile } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { promisify } from 'node:util';
import { PDFDocument } from 'pdf-lib';
import { describe, expect, it, vi } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { pieces } from '../../../../e2e/harness/testSensor';
import { outcomeWords } from '../../core/arrivals/intakeView';
import { dicomDate } from '../../core/dicom/dates';
import { dataset } from '../../core/dicom/dataset';
import { writeDicomFile } from '../../core/dicom/write';
import { seededRandom } from '../../core/random';
import { dayOf } from '../../core/time/clinicTime';
import { checkAudit } from '../audit/check';
import { wholeBlob } from '../blobs/keep';
import { wholeBody } from '../http/described';
import { newId, newUid } from '../ids';
import { rasterOf } from '../pictures/levels';
import { bytesOfFile } from '../pictures/receiving';
import { pictureRow, viewOf } from '../pictures/views';
import { Problem } from '../problem';
import { visitView } from '../visits/visits';
import { arrivalsOfBundle } from './arrivals';
import { discFile, shade, zipped } from './arriving.test-data';
import { bundles, sortArrivals, whoseBundle } from './bundles';
import { type GiveWish, giveArrivals } from './giving';
import { forgetPutAway } from './forgetting';
import { endAsked } from './intakeEnd';
import { beginIntake, breakOffStill, intakeLines, intakesSeen, senderOfCaller } from './intakes';
import { beginReading } from './readFolder';
import { arrivalShown } from './showing';
import { mostHeadBytes, surveyFolder, surveyHeads } from './survey';
import { type TakenIn, takeIn } from './takeIn';

const run = promisify(execFile);
const clinic = useClinic();
const who = () => clinic.caller('front-desk');

/** Brings files in as a page does. */
async function brought(files: Record<string, Buffer>): Promise<{ intakeId: string; taken: TakenIn[] }> {
  const said = Object.keys(files).length;
  const { intakeId } = await beginIntake(who(), newId(), { name: 'A disc', said });
  const taken: TakenIn[] = [];
  for (const [name, bytes] of Object.entries(files))
    taken.push(await takeIn(senderOfCaller(who(), 'drop'), intakeId, { path: name, body: pieces(bytes) }));
  await endAsked(who(), intakeId, newId(), { kind: 'end' });
  return { intakeId, taken };
}
const bundlesOf = async (intakeId: string) =>
  (await bundles(who())).filter((bundle) => bundle.intakeId === intakeId);
const intakeOf = async (intakeId: string) =>
  (await intakesSeen(who())).find((intake) => intake.intakeId === intakeId)!;
const toBench = (arrivalIds: string[]): GiveWish['each'] =>
  arrivalIds.map((arrivalId) => ({
    arrivalId,
    trayId: null,
    slotId: null,
    name: '',
    places: [],
    takenAt: null
  }));

describe('files that are brought in', () => {
  it('lie in a bundle for each person and study, slices in their true order', async () => {
    const [study, series] = [newUid(), newUid()];
    const slices = Object.fromEntries(
      [10, 2, 1, 11].map((number) => [
        `disc/S${number}.dcm`,
        discFile({ name: 'Quayle^Matthis', study, series, number, description: 'Knee left AP' })
      ])
    );
    const { intakeId } = await brought({
      ...slices,
      'disc/other.dcm': discFile({ name: 'Quayle^Matthis', birthDate: '19900909' })
    });
    const found = await bundlesOf(intakeId);
    expect(found.map(({ count }) => count).sort()).toEqual([1, 4]);
    const four = found.find(({ count }) => count === 4)!;
    const arrivals = await arrivalsOfBundle(who(), four.bundleId);
    expect(arrivals.map(({ fileName }) => fileName)).toEqual(
      [1, 2, 10, 11].map((number) => `disc/S${number}.dcm`)
    );
    expect(arrivals[0].shows.name).toBe('Left knee, from the front');
    expect(four.inFile?.name).toBe('Matthis Quayle');
  });

  it('that are slices of one series lie as one stack in their order, and go into a chart as one picture', async () => {
    const [study, series] = [newUid(), newUid()];
    const places = { 7: 30, 1: -2.5, 4: 10, 9: 42, 3: 4 };
    const { intakeId } = await brought(
      Object.fromEntries(
        Object.entries(places).map(([number, alongMm]) => [
          `ct/IM${number}.dcm`,
          discFile({
            name: 'Slices^Sal',
            study,
            series,
            number: 100 - Number(number),
            description: 'Jaw, thin',
            slice: { alongMm, sample: 1000 * Number(number) }
          })
        ])
      )
    );
    const [bundle] = await bundlesOf(intakeId);
    expect(bundle).toMatchObject({ count: 1, inFile: { name: 'Sal Slices' } });
    const [stack] = await arrivalsOfBundle(who(), bundle.bundleId);
    expect(stack).toMatchObject({ frames: 5, parts: 5, series: expect.stringContaining('Jaw, thin') });
    expect(stack.reason).toContain('5 slices of one series');
    const { pictureIds } = await giveArrivals(who(), newId(), {
      to: { visitId: await clinic.newVisit() },
      each: toBench([stack.arrivalId])
    });
    const [id] = pictureIds;
    const first = await clinic.inside((tx) => viewOf(tx, id, who().userId));
    expect(first).toMatchObject({ frames: 5, fileScale: { mmPerPixelX: 0.02 } });
    const seen: number[] = [];
    const row = await clinic.inside((tx) => pictureRow(tx, id));
    for (let frame = 0; frame < 5; frame++) {
      const { data, offset } = await rasterOf(clinic.clinicId, row, frame, 0);
      seen.push(data[0] + offset);
    }
    expect(seen).toEqual([1000, 3000, 4000, 7000, 9000]);
  });

  it('that are slices of several planes of one series become a stack for each, named by its plane', async () => {
    const [study, series] = [newUid(), newUid()];
    const slice = (number: number, plane?: number[]) =>
      discFile({
        name: 'Planes^Pia',
        study,
        series,
        number,
        description: 'Knee',
        slice: { alongMm: 10 - number, sample: 100 * number, plane }
      });
    const sagittal = [0, 1, 0, 0, 0, -1];
    const coronal = [1, 0, 0, 0, 0, -1];
    const { intakeId } = await brought({
      ...Object.fromEntries([1, 2, 3, 4].map((number) => [`k/${number}.dcm`, slice(number)])),
      ...Object.fromEntries([5, 6, 7, 8, 9].map((number) => [`k/${number}.dcm`, slice(number, sagittal)])),
      'k/scout.dcm': slice(10, coronal)
    });
    const [bundle] = await bundlesOf(intakeId);
    const all = await arrivalsOfBundle(who(), bundle.bundleId);
    expect(all.map(({ fileName, frames }) => [fileName, frames]).sort()).toEqual([
      ['k/Knee, axial', 4],
      ['k/Knee, sagittal', 5],
      ['k/scout.dcm', 1]
    ]);
    const stack = all.find(({ frames }) => frames === 4)!;
    expect(stack.remarks).toContain('Its series holds slices of other planes too, which lie beside it.');
  });

  it('that are slices of other sizes lie beside the stack, which opens as its own first slice does', async () => {
    const [study, series] = [newUid(), newUid()];
    const slice = (number: number, size: 'odd' | 'usual') =>
      discFile({
        name: 'Slices^Sue',
        study,
        series,
        number,
        description: 'Knee',
        slice: { alongMm: number, sample: 100 * number, size: size === 'odd' ? [8, 4] : undefined }
      });
    const { intakeId } = await brought({
      'a/0.dcm': slice(0, 'odd'),
      ...Object.fromEntries([1, 2, 3, 4].map((number) => [`a/${number}.dcm`, slice(number, 'usual')])),
      // Three of a series are too few for a stack.
      ...Object.fromEntries(
        [1, 2, 3].map((number) => [
          `b/${number}.dcm`,
          discFile({
            name: 'Few^Fay',
            study: '2.25.7',
            series: '2.25.71',
            number,
            slice: { alongMm: number, sample: 9 }
          })
        ])
      )
    });
    const all = [];
    for (const { bundleId } of await bundlesOf(intakeId))
      all.push(...(await arrivalsOfBundle(who(), bundleId)));
    const stack = all.find(({ frames }) => frames > 1)!;
    expect(stack).toMatchObject({ frames: 4, parts: 4 });
    expect(stack.remarks.join(' ')).toContain('1 of another size or spacing lies beside it');
    expect(
      all
        .filter(({ frames }) => frames === 1)
        .map(({ fileName }) => fileName)
        .sort()
    ).toEqual(['a/0.dcm', 'b/1.dcm', 'b/2.dcm', 'b/3.dcm']);
    // Taken apart they are slices again, in their order.
    await sortArrivals(who(), newId(), { kind: 'singly', arrivalIds: [stack.arrivalId] });
    const [bundle] = (await bundlesOf(intakeId)).filter(({ inFile }) => inFile?.name === 'Sue Slices');
    const apart = await arrivalsOfBundle(who(), bundle.bundleId);
    expect(apart.filter(({ putAway }) => !putAway).map(({ fileName }) => fileName)).toEqual(
      [0, 1, 2, 3, 4].map((number) => `a/${number}.dcm`)
    );
  });

  it('that are here already are said and not doubled, by their bytes or by their instance', async () => {
    const file = discFile({ name: 'Twice^Nan' });
    const first = await brought({ 'a.dcm': file, 'copy of a.dcm': file });
    expect(first.taken.map(({ outcome }) => outcome)).toEqual(['kept', 'known']);
    const again = await brought({ 'b.dcm': file });
    expect(again.taken[0]).toMatchObject({ outcome: 'known', sentence: 'It waits in Arrivals already.' });
    const [{ bundleId }] = await bundlesOf(first.intakeId);
    const [{ arrivalId }] = await arrivalsOfBundle(who(), bundleId);
    await giveArrivals(who(), newId(), {
      to: { visitId: await clinic.newVisit() },
      each: toBench([arrivalId])
    });
    const third = await brought({ 'c.dcm': file });
    expect(third.taken[0].sentence).toBe('It is in the chart of Odile Wavecrest already.');
    expect(outcomeWords(await intakeOf(third.intakeId))).toBe('0 came in, 1 was here already');
  });

  it('that are bad are listed each with its reason; the rest goes in', async () => {
    const { intakeId } = await brought({
      'good.dcm': discFile({ name: 'Fine^Ada' }),
      'cut.dcm': discFile({ name: 'Cut^Off' }).subarray(0, 700),
      'empty.png': Buffer.alloc(0),
      'viewer.exe': Buffer.from('MZ this is a program'),
      'paper.pdf': Buffer.from('%PDF-1.4 and then nothing'),
      'Thumbs.db': Buffer.from('whatever')
    });
    const intake = await intakeOf(intakeId);
    expect(intake).toMatchObject({ kept: 1, refused: 4 });
    const lines = await intakeLines(who(), intakeId);
    expect(lines.map(({ name }) => name).sort()).toEqual(['cut.dcm', 'empty.png', 'paper.pdf', 'viewer.exe']);
    for (const { words } of lines) expect(words).toMatch(/\. .+\.$/);
  });

  it('that say they were taken in days to come are told of, and a date put right keeps what it was', async () => {
    const later = dicomDate(new Date(Date.now() + 50 * 3_600_000), who().timeZone);
    const { intakeId } = await brought({
      'm.dcm': discFile({ name: 'Morrow^Tom', date: later }),
      'n.dcm': discFile({ name: 'Morrow^Tim', date: '20240704' })
    });
    const takenAt = '2025-05-05T10:00:00.000Z';
    const to = { patientId: clinic.patientId, roomId: clinic.roomId, at: takenAt };
    const given = async (name: string) => {
      const bundle = (await bundlesOf(intakeId)).find(({ inFile }) => inFile?.name === name)!;
      const [arrival] = await arrivalsOfBundle(who(), bundle.bundleId);
      const each = [{ ...toBench([arrival.arrivalId])[0], takenAt }];
      const { visitId } = await giveArrivals(who(), newId(), { to, each });
      const { pictures } = await visitView(clinic.caller(), visitId);
      const picture = pictures.find(({ pictureId }) => pictureId === arrival.arrivalId)!;
      expect(picture.takenAt).toBe(takenAt);
      return { arrival, remarks: picture.remarks.join(' ') };
    };
    const tom = await given('Tom Morrow');
    expect(tom.arrival.dated).toBe(false);
    expect(tom.remarks).toContain('is no day; the picture stands under the moment it came in');
    expect(tom.remarks).toContain('The file does not say when it was taken; The front-desk did.');
    expect((await given('Tim Morrow')).remarks).toMatch(
      /The date it came with, . Jul 2024, was put right by The front-desk/
    );
  });

  it('that are numbered become one series in the true order; the pictures stay as they came', async () => {
    const random = seededRandom(4);
    const names = Array.from({ length: 12 }, (_, i) => i + 1)
      .filter((number) => number !== 7)
      .toSorted(() => random.uniform() - 0.5);
    const files: Record<string, Buffer> = {};
    for (const number of names) files[`stack/slice ${number}.png`] = await shade(number * 20);
    files['stack/notice.png'] = await shade(90, 40, 40);
    const { intakeId } = await brought(files);
    const [bundle] = await bundlesOf(intakeId);
    const arrivals = await arrivalsOfBundle(who(), bundle.bundleId);
    const series = arrivals.find(({ frames }) => frames > 1)!;
    expect(arrivals).toHaveLength(2);
    expect(series).toMatchObject({ frames: 11, fileName: 'stack, slice' });
    expect(series.remarks).toContain('Number 7 is missing in the row.');
    // Frame by frame as the numbers say: 2 before 10.
    const greys = [];
    for (const frame of [0, 1, 8, 9, 10]) greys.push(await greyOf(series.arrivalId, frame));
    for (const [i, number] of [1, 2, 10, 11, 12].entries())
      expect(Math.abs(greys[i] - number * 20)).toBeLessThan(3);
    const parts = await clinic.owner.query('select original_sha256 from arrival where part_of = $1', [
      series.arrivalId
    ]);
    expect(parts.rows).toHaveLength(11);
    const kept = await wholeBlob(clinic.clinicId, parts.rows[0].original_sha256);
    expect(Object.values(files).some((bytes) => bytes.equals(kept))).toBe(true);
    // Singly again, and as one again when it is brought back.
    expect(series.parts).toBe(11);
    await sortArrivals(who(), newId(), { kind: 'singly', arrivalIds: [series.arrivalId] });
    const single = await arrivalsOfBundle(who(), bundle.bundleId);
    expect(single.filter(({ putAway }) => !putAway)).toHaveLength(12);
    expect(single.map(({ fileName }) => fileName).filter((name) => /slice 1?2\./.test(name))).toEqual([
      'stack/slice 2.png',
      'stack/slice 12.png'
    ]);
    await sortArrivals(who(), newId(), { kind: 'bring-back', arrivalIds: [series.arrivalId] });
    const visitId = await clinic.newVisit();
    await giveArrivals(who(), newId(), { to: { visitId }, each: toBench([series.arrivalId]) });
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures).toMatchObject([{ frames: 11 }]);
  });

  it('may be papers, which lie with the story of the visit they are given to', async () => {
    const document = await PDFDocument.create();
    document.addPage();
    document.addPage();
    const { intakeId } = await brought({ 'letter from Skerry.pdf': Buffer.from(await document.save()) });
    const [bundle] = await bundlesOf(intakeId);
    expect(bundle).toMatchObject({ firstKind: 'paper', papers: 1 });
    const visitId = await clinic.newVisit();
    await giveArrivals(who(), newId(), { to: { visitId }, each: toBench([bundle.firstId]) });
    const papers = await clinic.owner.query('select title, pages from paper where visit_id = $1', [visitId]);
    expect(papers.rows).toEqual([{ title: 'letter from Skerry', pages: 2 }]);
  });
});

const greyOf = async (arrivalId: string, frame: number): Promise<number> => {
  const { default: sharp } = await import('sharp');
  const { channels } = await sharp(await arrivalShown(who(), arrivalId, frame)).stats();
  return channels[0].mean;
};

describe('a video', () => {
  it('becomes a loop of its frames, and stays behind it as it came; a broken one is refused in words', async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-video-'));
    const file = path.join(folder, 'pony.mp4');
    const source = 'testsrc=size=160x120:rate=20:duration=1';
    await run('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', source, '-pix_fmt', 'yuv420p', file]);
    const video = fs.readFileSync(file);
    fs.rmSync(folder, { recursive: true });
    const { intakeId, taken } = await brought({
      'pony.mp4': video,
      'cut.mp4': video.subarray(0, 900),
      'again.mp4': video
    });
    expect(taken.map(({ outcome }) => outcome)).toEqual(['kept', 'refused', 'known']);
    const [bundle] = await bundlesOf(intakeId);
    const [loop] = await arrivalsOfBundle(who(), bundle.bundleId);
    expect(loop).toMatchObject({ frames: 20, kind: 'other', dated: false });
    const { rows } = await clinic.owner.query<{ original_sha256: Buffer }>(
      'select original_sha256 from arrival where part_of = $1',
      [loop.arrivalId]
    );
    expect((await wholeBlob(clinic.clinicId, rows[0].original_sha256)).equals(video)).toBe(true);
    // The clock in the test picture counts on: the last frame differs from the first.
    expect(await arrivalShown(who(), loop.arrivalId, 19)).not.toEqual(
      await arrivalShown(who(), loop.arrivalId, 0)
    );
  });
});

describe('the index of a disc', () => {
  it('is held against what is there: what it names in vain or outside is said, and nothing is read by it', async () => {
    const record = (...parts: string[]) => ({ DirectoryRecordType: 'IMAGE', ReferencedFileID: parts });
    const index = Buffer.from(
      writeDicomFile(
        dataset({
          SpecificCharacterSet: 'ISO_IR 192',
          SOPClassUID: '1.2.840.10008.1.3.10',
          SOPInstanceUID: newUid(),
          DirectoryRecordSequence: [
            record('IMAGES', 'A'),
            record('IMAGES', 'GONE'),
            record('..', '..', 'ETC', 'PASSWD')
          ]
        })
      )
    );
    const { intakeId } = await brought({ DICOMDIR: index, 'images/a': discFile({ name: 'Index^Ida' }) });
    const lines = await intakeLines(who(), intakeId);
    expect(lines.map(({ name, code }) => [name, code]).sort()).toEqual([
      ['../../ETC/PASSWD', 'index-outside'],
      ['IMAGES/GONE', 'index-missing']
    ]);
  });
});

describe('a ZIP package', () => {
  it('is unpacked file by file; what points outside or would burst is refused, the rest goes in', async () => {
    const package_ = await zipped({
      'disc/one.dcm': discFile({ name: 'Zip^Una' }),
      'disc/deep/two.dcm': discFile({ name: 'Zip^Dua' }),
      'disc/zeros.bin': Buffer.alloc(80 * 1024 * 1024)
    });
    // The same name, made to climb out: as many letters.
    const climbing = Buffer.from(
      package_.toString('latin1').replaceAll('disc/one.dcm', '../../../o.d'),
      'latin1'
    );
    const { intakeId, taken } = await brought({ 'all.zip': climbing });
    expect(taken).toEqual([{ outcome: 'unpacked' }]);
    expect(await intakeOf(intakeId)).toMatchObject({ kept: 1, refused: 2, said: 3 });
    const lines = await intakeLines(who(), intakeId);
    expect(lines.map(({ words }) => words).join(' ')).toMatch(
      /points outside the package.*packed more tightly|packed more tightly.*points outside/
    );
    expect(fs.existsSync(path.resolve('../../../o.d'))).toBe(false);
  });
  it('one of whose files is damaged inside loses that one alone', async () => {
    const [one, two] = [discFile({ name: 'Inside^One' }), discFile({ name: 'Inside^Two' })];
    const whole = await zipped({ 'one.dcm': one, 'two.dcm': two });
    // In the middle of the first file's packed bytes.
    whole.fill(0xff, 60, 110);
    const { intakeId } = await brought({ 'bad inside.zip': whole });
    expect(await intakeOf(intakeId)).toMatchObject({ kept: 1, refused: 1 });
    expect((await intakeLines(who(), intakeId))[0].name).toBe('bad inside.zip/one.dcm');
  });
  it('is not blamed for what fails here: nothing is noted, and whoever brings it hears of it', async () => {
    const { intakeId } = await beginIntake(who(), newId(), { name: 'Away', said: 1 });
    const full = async function* () {
      yield Buffer.from('DICM');
      throw new Problem('disk-full', 'The disk takes nothing more in.', 'Make room.', 503);
    };
    const brings = takeIn(senderOfCaller(who(), 'drop'), intakeId, { path: 'a.dcm', body: full() });
    await expect(brings).rejects.toMatchObject({ code: 'disk-full' });
    expect(await intakeLines(who(), intakeId)).toEqual([]);
    await endAsked(who(), intakeId, newId(), { kind: 'end' });
  });
  it('that is cut off, or one in another, is refused in words', async () => {
    const whole = await zipped({ 'a.dcm': discFile({}) });
    const nested = await zipped({ 'inner.zip': whole });
    const { intakeId } = await brought({
      'cut.zip': whole.subarray(0, whole.length - 40),
      'outer.zip': nested
    });
    const words = (await intakeLines(who(), intakeId)).map((line) => line.words).join(' ');
    expect(words).toContain('cut off or damaged');
    expect(words).toContain('a ZIP package inside another one');
  });
});

describe('a folder on the server', () => {
  it('is read only where an administrator allowed it, and never through a link that leads away', async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-disc-'));
    const secret = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-secret-'));
    fs.writeFileSync(path.join(folder, 'a.dcm'), discFile({ name: 'Folder^Fay' }));
    fs.symlinkSync(secret, path.join(folder, 'away'));
    fs.writeFileSync(path.join(secret, 's.dcm'), discFile({ name: 'Secret^Sue' }));
    await expect(beginReading(who(), newId(), { folder })).rejects.toMatchObject({
      code: 'folder-not-allowed'
    });
    await clinic.owner.query('update clinic set read_folders = $2 where clinic_id = $1', [
      clinic.clinicId,
      [folder]
    ]);
    for (const asked of [secret, path.join(folder, 'away'), path.join(folder, '..')])
      await expect(beginReading(who(), newId(), { folder: asked })).rejects.toMatchObject({
        code: 'folder-not-allowed'
      });
    const { intakeId } = await beginReading(who(), newId(), { folder });
    await expect.poll(async () => (await intakeOf(intakeId)).endedAt, { timeout: 20_000 }).toBeTruthy();
    expect(await intakeOf(intakeId)).toMatchObject({ kept: 1, said: 1 });
    // A scratch in the disc: that file is told of, the rest goes in, and the server goes on.
    fs.writeFileSync(path.join(folder, 'b.dcm'), discFile({ name: 'Folder^Fox' }));
    fs.writeFileSync(path.join(folder, 'scratched.dcm'), discFile({ name: 'Folder^Fern' }));
    const sound = fs.createReadStream;
    const scratch = vi.spyOn(fs, 'createReadStream').mockImplementation((...of) => {
      const [file, ...more] = of;
      return sound(String(file).endsWith('scratched.dcm') ? path.join(folder, 'nowhere') : file, ...more);
    });
    const again = (await beginReading(who(), newId(), { folder })).intakeId;
    await expect.poll(async () => (await intakeOf(again)).endedAt, { timeout: 20_000 }).toBeTruthy();
    scratch.mockRestore();
    expect(await intakeOf(again)).toMatchObject({ kept: 1, known: 1, refused: 1, cancelled: false });
    expect((await intakeLines(who(), again)).map(({ words }) => words).join(' ')).toContain(
      'The disc can’t be read at this place'
    );
    fs.rmSync(folder, { recursive: true });
    fs.rmSync(secret, { recursive: true });
  });
});

describe('the beginnings of files', () => {
  const twoPeople = (): Record<string, Buffer> => {
    const [study, other] = [newUid(), newUid()];
    return Object.fromEntries(
      [1, 2, 3, 4, 5].map((number) => [
        `IM${number}`,
        number < 4
          ? discFile({ name: 'Ahead^Ada', birthDate: '19620203', study, number })
          : discFile({ name: 'Ahead^Otto', study: other, number })
      ])
    );
  };
  const coming = async (intakeId: string) =>
    (await intakeOf(intakeId)).coming.map(({ name, files, here }) => [name, files, here]);
  const sentAhead = async (intakeId: string, body: Buffer) =>
    surveyHeads(who(), intakeId, (await wholeBody(pieces(body), mostHeadBytes)).bytes);
  const framed = (heads: Buffer[]) =>
    Buffer.concat(
      heads.flatMap((head) => {
        const length = Buffer.alloc(4);
        length.writeUInt32LE(head.length);
        return [length, head];
      })
    );

  it('sent ahead tell whose they are and how many; what comes is counted to each, until it is over', async () => {
    const files = twoPeople();
    const { intakeId } = await beginIntake(who(), newId(), { name: 'A disc', said: 5 });
    const heads = [...Object.values(files), await shade(9)].map((file) => file.subarray(0, 4_000));
    await sentAhead(intakeId, framed(heads.slice(0, 2)));
    await sentAhead(intakeId, framed(heads.slice(2)));
    expect(await coming(intakeId)).toEqual([
      ['Ada Ahead', 3, 0],
      ['Otto Ahead', 2, 0]
    ]);
    for (const name of ['IM1', 'IM2', 'IM4'])
      await takeIn(senderOfCaller(who(), 'drop'), intakeId, { path: name, body: pieces(files[name]) });
    expect(await coming(intakeId)).toEqual([
      ['Ada Ahead', 3, 2],
      ['Otto Ahead', 2, 1]
    ]);
    await endAsked(who(), intakeId, newId(), { kind: 'end' });
    expect(await coming(intakeId)).toEqual([]);
    // What comes late is for nobody any more.
    await sentAhead(intakeId, framed(heads));
    expect(await coming(intakeId)).toEqual([]);
  });

  it('that are none are refused in words', async () => {
    const { intakeId } = await beginIntake(who(), newId(), { name: 'A disc', said: 1 });
    const long = Buffer.from([255, 255, 255, 255, 1, 2]);
    for (const body of [long, Buffer.from([1, 0]), Buffer.alloc(4 * 600), Buffer.alloc(5 * 1024 * 1024)])
      await expect(sentAhead(intakeId, body)).rejects.toMatchObject({ code: 'not-heads' });
    await expect(sentAhead(newId(), long)).rejects.toMatchObject({ status: 404 });
    await endAsked(who(), intakeId, newId(), { kind: 'cancel' });
  });

  it('in a folder are counted whole, however many are looked at beside one another', async () => {
    const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-survey-'));
    const some = twoPeople();
    const files = Array.from({ length: 400 }, (_, i) => {
      const file = path.join(folder, `F${i}`);
      fs.writeFileSync(file, some[`IM${1 + (i % 5)}`]);
      return file;
    });
    const { intakeId } = await beginIntake(who(), newId(), { name: 'A disc', said: 400 });
    await surveyFolder(clinic.clinicId, intakeId, files);
    expect(await coming(intakeId)).toEqual([
      ['Ada Ahead', 240, 0],
      ['Otto Ahead', 160, 0]
    ]);
    await endAsked(who(), intakeId, newId(), { kind: 'cancel' });
    await surveyFolder(clinic.clinicId, intakeId, files);
    expect(await coming(intakeId)).toEqual([]);
    fs.rmSync(folder, { recursive: true });
  });
});

describe('what was put away', () => {
  it('is removed after its days with its bytes, unless somebody else has them; what a device exposed never is', async () => {
    const shared = discFile({ name: 'Shared^Sam' });
    const { intakeId } = await brought({ 'old.dcm': discFile({ name: 'Old^Olga' }), 'shared.dcm': shared });
    const found = await bundlesOf(intakeId);
    const old = found.find(({ inFile }) => inFile?.name === 'Olga Old')!;
    const both = found.find(({ inFile }) => inFile?.name === 'Sam Shared')!;
    const hash = async (arrivalId: string) =>
      (
        await clinic.owner.query<{ original_sha256: Buffer }>(
          'select original_sha256 from arrival where arrival_id = $1',
          [arrivalId]
        )
      ).rows[0].original_sha256;
    const [gone, kept] = [await hash(old.firstId), await hash(both.firstId)];
    await sortArrivals(who(), newId(), { kind: 'put-away', arrivalIds: [old.firstId, both.firstId] });
    await clinic.owner.query(`update blob set place = 'kept' where sha256 = any($1)`, [[gone, kept]]);
    // A paper with the same bytes, as anything of a chart would have.
    await clinic.owner.query(
      `insert into paper (clinic_id, paper_id, visit_id, key, sha256, title, file_name, pages, added_by)
       values ($1, $2, $3, $4, $5, 'Same', 'same.pdf', 1, $6)`,
      [clinic.clinicId, newId(), await clinic.newVisit(), newId(), kept, who().userId]
    );
    await forgetPutAway(clinic.clinicId);
    expect(await bundlesOf(intakeId)).toHaveLength(2);
    await clinic.owner.query(
      `update arrival set put_away_at = now() - interval '31 days' where intake_id = $1`,
      [intakeId]
    );
    await forgetPutAway(clinic.clinicId);
    expect(await bundlesOf(intakeId)).toHaveLength(0);
    const left = await clinic.owner.query<{ sha256: Buffer }>(
      'select sha256 from blob where sha256 = any($1)',
      [[gone, kept]]
    );
    expect(left.rows.map(({ sha256 }) => sha256.toString('hex'))).toEqual([kept.toString('hex')]);
    const told = await clinic.owner.query(
      `select subject from audit_line where act = 'arrival removed' and clinic_id = $1`,
      [clinic.clinicId]
    );
    expect(told.rows.map(({ subject }) => subject).sort()).toEqual([old.firstId, both.firstId].sort());
  });
});

it('bytes of a file that is not there go wrong for whoever reads them, not before', async () => {
  const body = bytesOfFile(path.join(os.tmpdir(), 'yonder-is-not-there'));
  await new Promise((done) => setTimeout(done, 50));
  await expect(body.next()).rejects.toMatchObject({ code: 'ENOENT' });
});

describe('an intake that nobody ends', () => {
  it('is ended once nothing came for long, and says what to do; one that is going on is left alone', async () => {
    const begun = async () => (await beginIntake(who(), newId(), { name: 'Left open', said: 9 })).intakeId;
    const [left, going] = [await begun(), await begun()];
    await clinic.owner.query(
      `update intake set started_at = now() - interval '2 hours' where intake_id = any($1::uuid[])`,
      [[left, going]]
    );
    const file = { path: 'a.dcm', body: pieces(discFile({ name: 'Going^On' })) };
    await takeIn(senderOfCaller(who(), 'drop'), going, file);
    await breakOffStill(clinic.clinicId);
    expect(await intakeOf(left)).toMatchObject({ cancelled: true, refused: 1 });
    expect((await intakeLines(who(), left))[0].words).toContain('Bring it in again');
    expect((await intakeOf(going)).endedAt).toBeNull();
    await endAsked(who(), going, newId(), { kind: 'end' });
  });
});

describe('the sorting desk', () => {
  it('proposes whose a bundle is with the reasons, and is certain only when nothing contradicts', async () => {
    const patient = await clinic.owner.query<{
      family_name: string;
      given_name: string;
      birth_date: string;
      record_number: string;
    }>(
      `select family_name, given_name, to_char(birth_date, 'YYYYMMDD') as birth_date, record_number from patient where patient_id = $1`,
      [clinic.patientId]
    );
    const [{ family_name, given_name, birth_date, record_number }] = patient.rows;
    const right = await brought({
      'r.dcm': discFile({
        name: `${family_name}^${given_name}`,
        birthDate: birth_date ?? '',
        id: record_number
      })
    });
    const [bundle] = await bundlesOf(right.intakeId);
    const whose = await whoseBundle(who(), bundle.bundleId);
    expect(whose.proposed[0].patient.patientId).toBe(clinic.patientId);
    expect(whose.proposed[0].for).toContain('the same name');
    expect(whose.certain).toBe(true);
    const wrong = await brought({
      'w.dcm': discFile({ name: `${family_name}^${given_name}`, birthDate: '19010101', id: record_number })
    });
    const [other] = await bundlesOf(wrong.intakeId);
    const doubted = await whoseBundle(who(), other.bundleId);
    expect(doubted.certain).toBe(false);
    // Two people in one bundle: nothing is certain of it.
    await sortArrivals(who(), newId(), { kind: 'join', bundleId: other.bundleId, with: bundle.bundleId });
    expect((await whoseBundle(who(), bundle.bundleId)).certain).toBe(false);
  });

  it('splits, joins, notes and puts away; each is written down, and nobody elsewhere may', async () => {
    const study = newUid();
    const { intakeId } = await brought(
      Object.fromEntries(
        [1, 2, 3].map((number) => [`n${number}.dcm`, discFile({ name: 'Sort^Sid', study, number })])
      )
    );
    const [bundle] = await bundlesOf(intakeId);
    const ids = (await arrivalsOfBundle(who(), bundle.bundleId)).map(({ arrivalId }) => arrivalId);
    const split = await sortArrivals(who(), newId(), { kind: 'split', arrivalIds: ids.slice(2) });
    expect((await bundlesOf(intakeId)).map(({ count }) => count).sort()).toEqual([1, 2]);
    await sortArrivals(who(), newId(), {
      kind: 'note',
      arrivalIds: ids.slice(2),
      remark: 'Asked the sender.'
    });
    await sortArrivals(who(), newId(), { kind: 'join', bundleId: split.bundleId, with: bundle.bundleId });
    const [whole] = await bundlesOf(intakeId);
    expect(whole.count).toBe(3);
    expect((await arrivalsOfBundle(who(), whole.bundleId)).map(({ remark }) => remark).sort()).toEqual([
      '',
      '',
      'Asked the sender.'
    ]);
    await sortArrivals(who(), newId(), { kind: 'put-away', arrivalIds: ids });
    expect((await bundlesOf(intakeId))[0].putAway).toBe(true);
    await expect(
      sortArrivals(clinic.stranger, newId(), { kind: 'split', arrivalIds: ids })
    ).rejects.toMatchObject({ status: 404 });
    await expect(
      sortArrivals(clinic.caller('administrator'), newId(), { kind: 'split', arrivalIds: ids })
    ).rejects.toMatchObject({ status: 403 });
    expect((await clinic.inside(checkAudit)).wrong).toEqual([]);
  });

  it('gives many at once, all or none, to a visit of the day they were taken, with places and names', async () => {
    const study = newUid();
    const { intakeId } = await brought(
      Object.fromEntries(
        [1, 2].map((number) => [
          `g${number}.dcm`,
          discFile({ name: 'Give^Gil', study, number, date: '20240229' })
        ])
      )
    );
    const [bundle] = await bundlesOf(intakeId);
    const list = await arrivalsOfBundle(who(), bundle.bundleId);
    const to = { patientId: clinic.patientId, roomId: clinic.roomId, at: list[0].takenAt };
    const each = list.map(({ arrivalId }) => ({
      ...toBench([arrivalId])[0],
      name: 'Left hand',
      places: [
        { kind: 'bone' as const, region: 'hand' as const, side: 'left' as const, whose: 'person' as const }
      ]
    }));
    const bad = [...each, ...toBench([newId()])];
    await expect(giveArrivals(who(), newId(), { to, each: bad })).rejects.toMatchObject({ status: 404 });
    expect((await bundlesOf(intakeId))[0].count).toBe(2);
    const { visitId } = await giveArrivals(who(), newId(), { to, each });
    const view = await visitView(clinic.caller(), visitId);
    expect(dayOf(new Date(view.openedAt), who().timeZone)).toBe('2024-02-29');
    expect(view.trays[0].tray.bench).toHaveLength(2);
    expect(view.trays[0].tray.laid).toBeNull();
    const links = await clinic.owner.query(
      'select place_key from picture_place where picture_id = any($1::uuid[])',
      [list.map(({ arrivalId }) => arrivalId)]
    );
    expect(links.rows.map((row) => row.place_key)).toEqual(Array(2).fill('bone:person:hand:left'));
    // A second bundle of that day lies in the same visit.
    const more = await brought({ 'h.dcm': discFile({ name: 'Give^Gil', date: '20240229' }) });
    const [later] = await bundlesOf(more.intakeId);
    const second = await giveArrivals(who(), newId(), { to, each: toBench([later.firstId]) });
    expect(second.visitId).toBe(visitId);
  });
});
