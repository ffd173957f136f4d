import { spawnSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { PDFDocument } from 'pdf-lib';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { changeIt, drawLength } from '../../../../e2e/harness/drawing';
import { letteredPng, letteredSize } from '../../../../e2e/harness/lettered';
import { pieces } from '../../../../e2e/harness/testSensor';
import { type Packing, plainPacking } from '../../core/parcel/packing';
import { windowLook } from '../../core/raster/look/look';
import { arrivalsOfBundle } from '../arrivals/arrivals';
import { bundles } from '../arrivals/bundles';
import { giveArrivals } from '../arrivals/giving';
import { beginIntake, senderOfCaller } from '../arrivals/intakes';
import { endAsked } from '../arrivals/intakeEnd';
import { beginReading } from '../arrivals/readFolder';
import { takeIn } from '../arrivals/takeIn';
import { sayNoLettering } from '../deidentify/lettering';
import { pseudonymOf, whoIs } from '../deidentify/pseudonyms';
import { keepRule, rules } from '../deidentify/rules';
import { layVeils } from '../deidentify/veils';
import { newId } from '../ids';
import { addPaper } from '../papers/papers';
import { takeAway } from '../pictures/away';
import { storySeen } from '../visits/story';
import { openVisit, visitView } from '../visits/visits';
import { fetchParcel } from './fetching';
import { dispatchParcel } from './dispatchViews';
import { packParcel } from './packParcel';
import { parcelFiles } from './parcelFiles';
import { actOnParcel, sendParcel } from './parcels';

const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-packing-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));
const { width, height } = letteredSize;

/** A picture brought in from a file, with letters in it where that is wished. */
const broughtIn = async (visitId: string, letters = '', name = 'view.png'): Promise<string> =>
  clinic.bring(visitId, name, await letteredPng(letters));
const looked = (pictureId: string) => sayNoLettering(clinic.caller('assistant'), pictureId, randomUUID());
const draw = (pictureId: string, words = 'Wavecrest, a long line') => drawLength(clinic, pictureId, words);
const keepView = (pictureId: string, name: string, remark: string) =>
  changeIt(clinic, pictureId, [
    {
      kind: 'kept',
      item: `kept-${pictureId}`,
      body: {
        name,
        kind: 'finding',
        remark,
        keptAt: '2026-03-04T05:06:07.000Z',
        frame: 0,
        window: { left: 20, top: 30, width: 60, height: 40 },
        orientation: { quarterTurns: 0, mirrored: false },
        look: windowLook({ center: 128, width: 256 }),
        drawings: [],
        drawn: true,
        place: 0
      }
    }
  ]);
async function layPaper(visitId: string) {
  const paper = await PDFDocument.create();
  paper.addPage();
  const bytes = await paper.save();
  await addPaper(clinic.caller(), {
    visitId,
    fileName: 'Letter.pdf',
    key: newId(),
    body: pieces(Buffer.from(bytes))
  });
}
async function packedAs(
  visitId: string,
  pictureIds: string[],
  packing: Partial<Packing>,
  identity: 'identified' | 'deidentified' = 'deidentified',
  ruleId: string | null = null
): Promise<string> {
  const { parcelId } = await sendParcel(clinic.caller('front-desk'), visitId, randomUUID(), {
    destinationId: null,
    identity,
    ruleId,
    packing: { ...plainPacking, ...packing },
    pictureIds,
    warned: true
  });
  await packParcel(clinic.clinicId, parcelId!);
  return parcelId!;
}
async function filesOf(parcelId: string): Promise<Map<string, Uint8Array>> {
  const files = new Map<string, Uint8Array>();
  for await (const { path: name, bytes } of parcelFiles(clinic.clinicId, parcelId)) files.set(name, bytes);
  return files;
}
const planted = /Wavecrest|Odile|REC-?77|1980-?04-?05|05\.04\.1980/i;
/** Whether anything planted stands in a file: its name, its bytes, and what of it is packed. */
async function holdsPlanted(name: string, bytes: Uint8Array): Promise<boolean> {
  const text = [name, Buffer.from(bytes).toString('latin1'), Buffer.from(bytes).toString('utf16le')];
  if (name.endsWith('.pdf')) {
    const file = path.join(folder, `${randomUUID()}.pdf`);
    fs.writeFileSync(file, bytes);
    text.push(spawnSync('pdftotext', [file, '-'], { encoding: 'utf8' }).stdout);
    text.push(spawnSync('pdfinfo', ['-meta', file], { encoding: 'utf8' }).stdout);
    const document = await PDFDocument.load(bytes);
    text.push(
      [document.getTitle(), document.getAuthor(), document.getSubject(), document.getKeywords()].join(' ')
    );
  }
  return text.some((each) => planted.test(each));
}

describe('a parcel that leaves without its identity', () => {
  it.each<Partial<Packing>>([
    { format: 'dicom', drawings: 'beside', names: '{who} {number} {date} {what} {place} {kind} {n}' },
    { format: 'dicom', index: true },
    { format: 'png', drawings: 'in' },
    { format: 'png16' },
    { format: 'jpeg', drawings: 'in' },
    { format: 'tiff' },
    { format: 'raw' },
    { format: 'pdf', drawings: 'in' },
    { format: 'csv' },
    { format: 'package', drawings: 'beside', words: 'For Odile Wavecrest, REC-77, born 05.04.1980' }
  ])('holds nothing of the person in any file: %o', async (packing) => {
    const visitId = await clinic.newVisit();
    const pictureId = await broughtIn(visitId, '', 'Odile Wavecrest REC-77.png');
    await looked(pictureId);
    await draw(pictureId);
    const study = (await rules(clinic.caller())).find((each) => each.rule.graphics === 'cleaned')!;
    const parcelId = await packedAs(visitId, [pictureId], packing, 'deidentified', study.ruleId);
    const { parcel } = await dispatchParcel(clinic.caller(), parcelId);
    if (packing.words) {
      // Words that name somebody stop it, before anything is built of them.
      expect(parcel).toMatchObject({
        state: 'stopped',
        reason: expect.stringMatching(/words that go along/)
      });
      return;
    }
    expect(parcel).toMatchObject({ state: 'open', packed: 1 });
    const files = await filesOf(parcelId);
    expect(files.size).toBeGreaterThan(1);
    expect([...files.keys()]).toContain('what was checked.json');
    for (const [name, bytes] of files) expect(await holdsPlanted(name, bytes), name).toBe(false);
  });

  it('is stopped by a name in the picture itself, says where, and goes once it is veiled', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await broughtIn(visitId, 'WAVECREST ODILE');
    await looked(pictureId);
    const stopped = await dispatchParcel(
      clinic.caller(),
      await packedAs(visitId, [pictureId], { format: 'png' })
    );
    expect(stopped.parcel.state).toBe('stopped');
    const [{ found }] = stopped.found;
    expect(found.map(({ where }) => where)).toContain('the picture itself');
    const { left, top, width: w, height: h } = found.find(({ area }) => area)!.area!;
    expect([left < 40, top < 30, w > 150, h < 60]).toEqual([true, true, true, true]);
    await expect(fetchParcel(clinic.caller('assistant'), stopped.parcel.parcelId)).rejects.toMatchObject({
      code: 'not-ready'
    });
    const veil = { left: 0, top: 0, width, height: 60 };
    await layVeils(clinic.caller('front-desk'), pictureId, randomUUID(), {
      veils: { veils: [veil], only: null, looked: false },
      also: []
    });
    // Whoever changes the veils has to look again.
    await expect(packedAs(visitId, [pictureId], {})).rejects.toMatchObject({ code: 'look-first' });
    await layVeils(clinic.caller('front-desk'), pictureId, randomUUID(), {
      veils: { veils: [veil], only: null, looked: true },
      also: []
    });
    for (const format of ['png', 'png16', 'tiff', 'jpeg', 'raw', 'dicom'] as const) {
      const parcelId = await packedAs(visitId, [pictureId], { format });
      expect((await dispatchParcel(clinic.caller(), parcelId)).parcel.state, format).toBe('open');
      const files = await filesOf(parcelId);
      const [name, bytes] = [...files].find(([each]) => !each.startsWith('what was checked'))!;
      // Samples as they are stored may be of three colours.
      const plain = format === 'raw' || format === 'dicom';
      const colours = plain ? Math.floor(bytes.length / (width * height)) : 1;
      const row = width * colours;
      const raw =
        format === 'raw'
          ? Buffer.from(bytes)
          : format === 'dicom'
            ? Buffer.from(bytes).subarray(-width * height * colours)
            : await sharp(bytes).greyscale().raw().toBuffer();
      expect(Math.max(...raw.subarray(0, row * 55)), name).toBeLessThan(12);
      expect(Math.max(...raw.subarray(row * 120, row * 180)), name).toBeGreaterThan(100);
    }
  });

  it('whose name is a word of the picture goes when a person says why, and that is kept', async () => {
    const patientId = await clinic.newPatient('Long', 'Rose', 'REC-88');
    const visitId = await clinic.newVisit(patientId);
    const pictureId = await broughtIn(visitId, 'LONG AXIS VIEW');
    await looked(pictureId);
    const parcelId = await packedAs(visitId, [pictureId], { format: 'png' });
    expect((await dispatchParcel(clinic.caller(), parcelId)).parcel.state).toBe('stopped');
    await actOnParcel(clinic.caller('assistant'), parcelId, randomUUID(), {
      act: 'let go',
      why: 'the axis, no name'
    });
    const after = await dispatchParcel(clinic.caller(), parcelId);
    expect(after).toMatchObject({
      parcel: { state: 'open' },
      letGo: expect.stringContaining('the axis, no name')
    });
    expect([...(await filesOf(parcelId)).keys()].some((name) => name.endsWith('.png'))).toBe(true);
  });

  it('with a picture that was deleted meanwhile says so and does not go', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await broughtIn(visitId);
    await looked(pictureId);
    const { parcelId } = await sendParcel(clinic.caller(), visitId, randomUUID(), {
      destinationId: null,
      identity: 'deidentified',
      pictureIds: [pictureId]
    });
    await takeAway(clinic.caller(), randomUUID(), 'bin', {
      pictureIds: [pictureId],
      reason: 'wrong patient'
    });
    await packParcel(clinic.clinicId, parcelId!);
    expect((await dispatchParcel(clinic.caller(), parcelId!)).parcel).toMatchObject({
      state: 'stopped',
      reason: expect.stringMatching(/deleted/)
    });
  });

  it('that keeps its identity is ready at once; what can’t go breaks its ZIP off, and Dispatch says why', async () => {
    const visitId = await clinic.newVisit();
    const pictureIds = [await broughtIn(visitId), await broughtIn(visitId), await broughtIn(visitId)];
    const { parcelId } = await sendParcel(clinic.caller(), visitId, randomUUID(), {
      destinationId: null,
      identity: 'identified',
      warned: true,
      packing: { ...plainPacking, format: 'png' },
      pictureIds
    });
    const standing = async () => (await dispatchParcel(clinic.caller(), parcelId!)).parcel;
    expect(await standing()).toMatchObject({ state: 'open' });
    expect((await filesOf(parcelId!)).size).toBe(3);
    const whole = await fetchParcel(clinic.caller(), parcelId!);
    await new Response(whole.stream).arrayBuffer();
    await expect.poll(standing).toMatchObject({ fetchedAt: expect.any(String), packed: 0 });
    await takeAway(clinic.caller(), randomUUID(), 'bin', {
      pictureIds: [pictureIds[2]],
      reason: 'wrong patient'
    });
    const { stream } = await fetchParcel(clinic.caller(), parcelId!);
    await expect(new Response(stream).arrayBuffer()).rejects.toThrow();
    await expect.poll(standing).toMatchObject({
      state: 'stopped',
      reason: 'One of its pictures can’t be packed. This picture was deleted from its chart.',
      next: expect.stringMatching(/^Bring it back/)
    });
  });

  it('changed after it was looked through is looked through anew', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await broughtIn(visitId, 'WAVECREST ODILE');
    const veil = { left: 0, top: 0, width, height: 60 };
    const lay = (veils: (typeof veil)[]) =>
      layVeils(clinic.caller(), pictureId, randomUUID(), {
        veils: { veils, only: null, looked: true },
        also: []
      });
    await lay([veil]);
    const parcelId = await packedAs(visitId, [pictureId], { format: 'png' });
    await lay([]);
    await expect(filesOf(parcelId)).rejects.toMatchObject({ code: 'identity-left' });
  });
});

describe('pseudonyms', () => {
  it('are the same each time for a purpose, others for another, and looked up by the administrator alone', async () => {
    const of = (purpose: string) => clinic.inside((tx) => pseudonymOf(tx, clinic.patientId, purpose));
    const [a, again, b] = [await of('study-a'), await of('study-a'), await of('study-b')];
    expect({ ...again, replaceUid: null }).toEqual({ ...a, replaceUid: null });
    expect(again.replaceUid('2.25.1')).toBe(a.replaceUid('2.25.1'));
    expect([b.name === a.name, b.replaceUid('2.25.1') === a.replaceUid('2.25.1')]).toEqual([false, false]);
    expect(Math.abs(a.clockShiftSeconds)).toBeLessThanOrEqual(4 * 3600);
    await expect(whoIs(clinic.caller('clinician'), a.name)).rejects.toMatchObject({ status: 403 });
    expect(await whoIs(clinic.caller('administrator'), a.name.toLowerCase())).toMatchObject([
      { recordNumber: 'REC-77', name: a.name }
    ]);
    const { rows } = await clinic.owner.query(
      `select subject from audit_line where act = 'pseudonym looked up'`
    );
    expect(rows.length).toBeGreaterThan(0);
  });
  it('follow from a rule: two rules never give one patient the same name', async () => {
    const [first] = await rules(clinic.caller());
    const { ruleId } = await keepRule(clinic.caller('administrator'), randomUUID(), {
      name: 'For the register',
      rule: { ...first.rule, dates: 'kept' }
    });
    const visitId = await clinic.newVisit();
    const pictureId = await broughtIn(visitId);
    await looked(pictureId);
    const nameBy = async (rule: string) => {
      const files = await filesOf(
        await packedAs(visitId, [pictureId], { format: 'jpeg', names: '{who}' }, 'deidentified', rule)
      );
      return [...files.keys()].find((name) => name.endsWith('.jpg'));
    };
    expect(await nameBy(ruleId)).not.toBe(await nameBy(first.ruleId));
  });
});

describe('the open package', () => {
  it('is read back whole by another clinic, with what was drawn, and twice is once', async () => {
    const visitId = await clinic.newVisit();
    const pictureIds = [await broughtIn(visitId, '', 'a.png'), await broughtIn(visitId, 'B', 'b.png')];
    await draw(pictureIds[0], 'Gap');
    await keepView(pictureIds[0], 'The gap', 'Look at its lower edge');
    await layPaper(visitId);
    const parcelId = await packedAs(
      visitId,
      pictureIds,
      { format: 'package', drawings: 'beside', papers: true },
      'identified'
    );
    const { stream, fileName } = await fetchParcel(clinic.caller('front-desk'), parcelId);
    expect(fileName).toMatch(/\.zip$/);
    const zip = Buffer.from(await new Response(stream).arrayBuffer());
    const files = await filesOf(parcelId);
    expect([...files.keys()]).toEqual(
      expect.arrayContaining([
        'DICOMDIR',
        'index.html',
        'fhir-bundle.json',
        'readings.csv',
        'yonder-package.json',
        'kept views/01 a.png 01.jpg',
        'papers/Letter.pdf'
      ])
    );
    const page = Buffer.from(files.get('index.html')!).toString();
    expect(page).toContain('<a href="papers/Letter.pdf">Letter</a>');
    expect(page).toContain('Look at its lower edge');
    const seen = await sharp(files.get('kept views/01 a.png 01.jpg')).metadata();
    expect(seen.width! / seen.height!).toBeCloseTo(60 / 40, 2);
    const fhir = JSON.parse(Buffer.from(files.get('fhir-bundle.json')!).toString()) as {
      entry: { resource: { resourceType: string; content?: { attachment: { url: string } }[] } }[];
    };
    expect(
      fhir.entry.flatMap(({ resource }) => resource.content ?? []).map(({ attachment }) => attachment.url)
    ).toEqual(['papers/Letter.pdf']);
    const at_ = path.join(folder, 'package');
    for (const [name, bytes] of files) {
      fs.mkdirSync(path.dirname(path.join(at_, name)), { recursive: true });
      fs.writeFileSync(path.join(at_, name), bytes);
    }
    const dumped = spawnSync('dcdirdmp', [path.join(at_, 'DICOMDIR')], { encoding: 'utf8' });
    expect(dumped.stdout + dumped.stderr).not.toMatch(/error/i);
    for (const name of [...files.keys()].filter((each) => each.startsWith('DICOM/'))) {
      const { stderr } = spawnSync('dciodvfy', [path.join(at_, name)], { encoding: 'utf8' });
      expect(
        stderr.split('\n').filter((line) => line.startsWith('Error')),
        name
      ).toEqual([]);
    }

    const there = clinic.stranger;
    const bring = async (name: string) => {
      const { intakeId } = await beginIntake(there, newId(), { name, said: 1 });
      await takeIn(senderOfCaller(there, 'drop'), intakeId, { path: `${name}.zip`, body: pieces(zip) });
      await endAsked(there, intakeId, newId(), { kind: 'end' });
      return (await bundles(there)).filter((bundle) => bundle.intakeId === intakeId);
    };
    const [bundle, ...more] = await bring('first');
    expect(more).toEqual([]);
    const arrivals = await arrivalsOfBundle(there, bundle.bundleId);
    // Its papers lie with its pictures.
    expect(arrivals).toHaveLength(3);
    expect(await bring('second')).toEqual([]);
    // The same, unpacked by somebody and read as a folder: what lies in it to be looked at is no picture of its own.
    await clinic.owner.query('update clinic set read_folders = $2 where clinic_id = $1', [
      there.clinicId,
      [at_]
    ]);
    const { intakeId: ofFolder } = await beginReading(there, newId(), { folder: at_ });
    const ended = async () =>
      (
        await clinic.owner.query<{ ended_at: Date | null }>(
          'select ended_at from intake where intake_id = $1',
          [ofFolder]
        )
      ).rows[0].ended_at;
    await expect.poll(ended, { timeout: 20_000 }).toBeTruthy();
    expect((await bundles(there)).filter((each) => each.intakeId === ofFolder)).toEqual([]);
    const roomId = newId();
    const patientId = newId();
    await clinic.owner.query('insert into room values ($1, $2, $3, $4, 0)', [
      roomId,
      there.clinicId,
      'Teeth',
      'teeth'
    ]);
    await clinic.owner.query(
      `insert into patient (patient_id, clinic_id, kind, family_name, given_name, birth_date, sex, record_number)
       values ($1, $2, 'person', 'Wavecrest', 'Odile', '1980-04-05', 'F', 'X-1')`,
      [patientId, there.clinicId]
    );
    const theirs = await openVisit(there, patientId, roomId, new Date());
    await giveArrivals(there, newId(), {
      to: { visitId: theirs },
      each: arrivals.map(({ arrivalId }) => ({
        arrivalId,
        trayId: null,
        slotId: null,
        name: '',
        places: [],
        takenAt: null
      }))
    });
    const view = await visitView(there, theirs);
    expect(view.pictures).toHaveLength(2);
    const items = view.pictures.flatMap(({ layers }) => layers.items);
    expect(items.filter(({ kind }) => kind === 'kept')).toMatchObject([
      { body: { name: 'The gap', remark: 'Look at its lower edge', window: { width: 60, height: 40 } } }
    ]);
    expect((await storySeen(there, theirs)).papers).toMatchObject([{ title: 'Letter', pages: 1 }]);
    const drawn = items.filter(({ kind }) => kind === 'length');
    expect(drawn).toMatchObject([
      {
        body: {
          ends: [
            { x: 40, y: 60 },
            { x: 140, y: 60 }
          ]
        }
      }
    ]);
  });

  it('without its identity has no paper, and of a kept view no name', async () => {
    const visitId = await clinic.newVisit();
    const pictureId = await broughtIn(visitId);
    await looked(pictureId);
    await keepView(pictureId, 'Wavecrest, lower left', 'Odile, as seen on 05.04.1980');
    await layPaper(visitId);
    const study = (await rules(clinic.caller())).find((each) => each.rule.graphics === 'cleaned')!;
    const parcelId = await packedAs(
      visitId,
      [pictureId],
      { format: 'package', drawings: 'in', papers: true },
      'deidentified',
      study.ruleId
    );
    expect((await dispatchParcel(clinic.caller(), parcelId)).parcel.state).toBe('open');
    const files = await filesOf(parcelId);
    expect([...files.keys()].filter((name) => /^(papers|kept views)/.test(name))).toHaveLength(1);
    expect(Buffer.from(files.get('index.html')!).toString()).toContain('lower left');
    for (const [name, bytes] of files) expect(await holdsPlanted(name, bytes), name).toBe(false);
  });
});
