import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import sharp from 'sharp';
import { describe, expect, it, vi } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { exampleFacts } from '../../core/dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import { writeDicomFile } from '../../core/dicom/write';
import { scaleInUse } from '../../core/picture/pictureLayers';
import { upright } from '../../core/raster/orientation';
import { wholeBlob } from '../blobs/keep';
import { chart } from '../visits/patients';
import { visitView } from '../visits/visits';
import { rawFile, rawPicture } from './decode/rawFile.test-data';
import {
  colour,
  deep,
  dicom,
  grey8,
  greyPng16,
  height,
  raster,
  unplaced,
  width
} from './exampleFiles.test-data';
import { rasterOf, wholeSamples } from './levels';
import { previewAt } from './previews';
import { settlePicture } from './settle';
import { pictureRow } from './views';

const clinic = useClinic();

describe('bringing a file in', () => {
  it('keeps the original byte for byte, whatever it is called, on the bench or in a slot', async () => {
    const visitId = await clinic.newVisit();
    const file = await greyPng16();
    const { tray, trayId } = await clinic.trayOf(visitId);
    const slotId = tray.route[1];
    const one = await clinic.bring(visitId, 'holiday.txt', file, { as: clinic.caller('front-desk') });
    const two = await clinic.bring(visitId, 'b.png', file, {
      trayId,
      slotId,
      as: clinic.caller('assistant')
    });
    const after = await clinic.trayOf(visitId);
    expect(after.tray.bench).toEqual([one]);
    expect(after.tray.wells[slotId].keeper).toBe(two);
    const row = await clinic.inside((tx) => pictureRow(tx, one));
    expect((await wholeBlob(clinic.clinicId, row.original_sha256)).equals(file)).toBe(true);
    expect([...(await rasterOf(clinic.clinicId, row, 0, 0)).data]).toEqual([...deep]);
    await settlePicture(clinic.clinicId, one);
    expect((await wholeBlob(clinic.clinicId, row.original_sha256)).equals(file)).toBe(true);
  });

  it('offered twice with one key is one picture; a refused one leaves nothing', async () => {
    const visitId = await clinic.newVisit();
    const file = await greyPng16();
    const key = randomUUID();
    const offer = () => clinic.bring(visitId, 'a.png', file, { key });
    const [one, two] = await Promise.all([offer(), offer()]);
    expect(one).toBe(two);
    const before = await clinic.count('picture');
    await expect(clinic.bring(visitId, 'a.png', new Uint8Array(5))).rejects.toMatchObject({ status: 422 });
    expect(await clinic.count('picture')).toBe(before);
    const left = fs.readdirSync(path.join(clinic.landing, clinic.clinicId));
    expect(left.filter((name) => name.endsWith('.part'))).toEqual([]);
  });

  it('keeps a loop with all its frames, and writes them out again as they were', async () => {
    const visitId = await clinic.newVisit();
    const frames = [0, 1, 2].map((n) => Uint8Array.from(colour, (v) => (v + 30 * n) % 256));
    const file = dicom(raster(colour, 3, 8), { frames: 3, frameMs: 50, bytes: Buffer.concat(frames) });
    const pictureId = await clinic.bring(visitId, 'loop.dcm', file);
    await settlePicture(clinic.clinicId, pictureId);
    const row = await clinic.inside((tx) => pictureRow(tx, pictureId));
    expect([row.frames, row.frame_ms]).toEqual([3, 50]);
    for (const [i, frame] of frames.entries())
      expect([...(await rasterOf(clinic.clinicId, row, i, 0)).data], `frame ${i}`).toEqual([...frame]);
    expect(Buffer.from(await wholeSamples(clinic.clinicId, row)).equals(Buffer.concat(frames))).toBe(true);
  });

  it('says so when the file carries another name, and not when it is the patient’s in another order', async () => {
    const visitId = await clinic.newVisit();
    let files = 0;
    const named = (name: string) =>
      writeDicomFile(
        datasetForPicture(
          exampleFacts({
            ...unplaced,
            patient: { name, id: '1', birthDate: '', sex: '' },
            instance: { uid: `2.25.4${++files}`, number: 1, date: '20240705', time: '083000' }
          })
        )
      );
    const remarks = async (name: string) => {
      const pictureId = await clinic.bring(visitId, 'x.dcm', named(name));
      const { pictures } = await visitView(clinic.caller(), visitId);
      return pictures.find((each) => each.pictureId === pictureId)!.remarks;
    };
    expect(await remarks('Somebody^Else')).toEqual([expect.stringContaining('Somebody Else')]);
    expect(await remarks('WAVECREST^Ódile')).toEqual([]);
  });

  it('takes any name and any text: what can’t be kept is left out, what is too long is cut', async () => {
    const visitId = await clinic.newVisit();
    const file = rawFile(
      rawPicture({ width: 4, height: 2, allocated: 8, pixels: Uint8Array.from([1, 2, 3, 4, 5, 6, 7, 8]) }, [
        ['00080005', 'CS', 'ISO_IR 192'],
        ['00080070', 'LO', 'Ma\0ker'],
        ['00080080', 'LO', 'half \xed\xa0\x80 pair'],
        ['00180060', 'DS', 'N/A']
      ])
    );
    const names: [string, string | RegExp][] = [
      ['a\0b.dcm', 'ab.dcm'],
      ['\ud83d.dcm', '\ufffd.dcm'],
      ['', 'Without a name'],
      [' \u0007 ', 'Without a name'],
      ['x'.repeat(2_000), /^x{200}$/]
    ];
    for (const [given, kept] of names) {
      const pictureId = await clinic.bring(visitId, given, file);
      const { pictures } = await visitView(clinic.caller(), visitId);
      const picture = pictures.find((each) => each.pictureId === pictureId)!;
      expect(picture.fileName).toMatch(kept);
      expect(picture.remarks).toContainEqual(expect.stringMatching(/tube voltage.*N\/A/));
    }
  });

  it('says at once when the same file or the same picture was here before, and whose it was', async () => {
    const visitId = await clinic.newVisit();
    const other = await clinic.newVisit(await clinic.newPatient('Tidewell', 'Isolde', 'FR-77'));
    const file = (uid: string, first: number) =>
      rawFile(
        rawPicture({ width: 2, height: 2, allocated: 8, pixels: Uint8Array.from([first, 2, 3, 4]) }, [
          ['00080018', 'UI', uid],
          ['00100010', 'PN', '']
        ])
      );
    const remarks = async (into: string, bytes: Buffer) =>
      (await clinic.bringing(into, 'a.dcm', bytes)).remarks;
    expect(await remarks(visitId, file('2.25.77', 1))).toEqual([]);
    expect(await remarks(visitId, file('2.25.77', 1))).toEqual([
      expect.stringMatching(/^This same file was brought in before/)
    ]);
    expect(await remarks(visitId, file('2.25.77', 9))).toEqual([
      expect.stringMatching(/^This same picture, by its own number, was brought in before/)
    ]);
    expect(await remarks(visitId, file('2.25.78', 5))).toEqual([]);
    expect(await remarks(other, file('2.25.78', 5))).toEqual([
      expect.stringMatching(/^This same file is already in the chart of Odile Wavecrest/)
    ]);
  });

  it('says so when the disk is full, leaves nothing behind, and goes on once there is room', async () => {
    const visitId = await clinic.newVisit();
    const file = await greyPng16();
    const handle = await fs.promises.open(path.join(clinic.landing, 'any'), 'w');
    const full = vi
      .spyOn(Object.getPrototypeOf(handle) as typeof handle, 'writev')
      .mockRejectedValue(Object.assign(new Error('no space'), { code: 'ENOSPC' }));
    await handle.close();
    const key = randomUUID();
    try {
      await expect(clinic.bring(visitId, 'a.png', file, { key })).rejects.toMatchObject({
        code: 'disk-full',
        status: 503
      });
    } finally {
      full.mockRestore();
    }
    const left = fs.readdirSync(clinic.landing, { recursive: true, encoding: 'utf8' });
    expect(left.filter((name) => name.endsWith('.part'))).toEqual([]);
    await clinic.bring(visitId, 'a.png', file, { key });
    expect((await clinic.trayOf(visitId)).tray.bench).toHaveLength(1);
  });

  it('stores all bytes before it waits for the tray, which others change meanwhile', async () => {
    const visitId = await clinic.newVisit();
    const { trayId } = await clinic.trayOf(visitId);
    const grey = sharp(
      grey8.map((value) => value ^ 0x5a),
      { raw: { width, height, channels: 1 } }
    );
    const file = await grey.png().toBuffer();
    const waiting = async () => {
      const { rows } = await clinic.owner.query<{ name: string }>(
        `select l.relation::regclass::text as name from pg_locks l where l.granted and l.mode = 'RowExclusiveLock'
           and l.pid in (select pid from pg_locks where not granted)`
      );
      return rows.map((row) => row.name);
    };
    const all = ['blob', 'blob_part', 'picture', 'picture_level', 'picture_preview'];
    process.env.YONDER_LANDING = 'off';
    await clinic.owner.query('begin');
    let held: string[] = [];
    let bringing: Promise<unknown> | null = null;
    try {
      await clinic.owner.query('select 1 from tray where tray_id = $1 for update', [trayId]);
      bringing = clinic.bring(visitId, 'late.png', file);
      // Others may wait for something of their own for a moment.
      for (let i = 0; i < 200 && !all.every((name) => held.includes(name)); i++) {
        await new Promise((done) => setTimeout(done, 25));
        held = await waiting();
      }
    } finally {
      await clinic.owner.query('commit');
      await bringing;
      process.env.YONDER_LANDING = clinic.landing;
    }
    expect(held).toEqual(expect.arrayContaining(all));
    expect((await clinic.trayOf(visitId)).tray.bench).toHaveLength(1);
  });

  it('shows what can be shown when something stored of a picture can’t be read', async () => {
    const visitId = await clinic.newVisit();
    const [one, two, three] = [
      await clinic.bring(visitId, 'one.png', await greyPng16()),
      await clinic.bring(visitId, 'two.png', await greyPng16()),
      await clinic.bring(visitId, 'three.png', await greyPng16())
    ];
    await clinic.owner.query(
      `update picture set facts = facts || '{"kv": null, "model": "M4"}' where picture_id = $1`,
      [one]
    );
    await clinic.owner.query(
      `update picture set first_look = '{"steps": [{"kind": "spell"}]}' where picture_id = $1`,
      [two]
    );
    await clinic.owner.query(
      `insert into picture_step (clinic_id, picture_id, seq, act, made_by, kind, item, version, body)
       values ($1, $2, 1, 'act', $3, 'hologram', 'item-0001', 9, '{}')`,
      [clinic.clinicId, three, clinic.caller().userId]
    );
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures.map((each) => each.pictureId).sort()).toEqual([one, two, three].sort());
    const said = (id: string) => pictures.find((each) => each.pictureId === id)!.remarks.join(' ');
    expect(said(one)).toMatch(/can’t be read and is not shown/);
    expect(said(two)).toMatch(/look this picture opens with can’t be read/);
    expect(said(three)).toMatch(/Something on this picture can’t be read/);
    const whole = await chart(clinic.caller(), clinic.patientId);
    expect(whole.visits.length).toBeGreaterThan(0);
    expect((await previewAt(clinic.clinicId, two, 0, upright)).length).toBeGreaterThan(50);
  });

  it('takes spacing from a DICOM file and none from a PNG', async () => {
    const visitId = await clinic.newVisit();
    await clinic.bring(visitId, 'a.dcm', writeDicomFile(datasetForPicture(exampleFacts())));
    await clinic.bring(visitId, 'b.png', await greyPng16());
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures.map((each) => scaleInUse(each.layers, each.fileScale)?.source ?? null)).toEqual([
      'detector',
      null
    ]);
  });

  it('takes a date without a zone as the clinic’s own', async () => {
    const visitId = await clinic.newVisit();
    const facts = exampleFacts({ instance: { uid: '2.25.9', number: 1, date: '20240705', time: '083000' } });
    const pictureId = await clinic.bring(visitId, 'a.dcm', writeDicomFile(datasetForPicture(facts)));
    const row = await clinic.inside((tx) => pictureRow(tx, pictureId));
    // Half past eight in the morning at the clinic, twelve hours ahead of UTC in winter.
    expect(row.taken_at.toISOString()).toBe('2024-07-04T20:30:00.000Z');
  });
});
