import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it, vi } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { exampleFacts } from '../../core/dicom/objects/exampleFacts.test-data';
import { dataset } from '../../core/dicom/dataset';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import type { ObjectPixels } from '../../core/dicom/objects/objectFacts';
import { writeDicomFile } from '../../core/dicom/write';
import { seededRandom } from '../../core/random';
import { scaleInUse } from '../../core/picture/pictureLayers';
import { upright } from '../../core/raster/orientation';
import { type Raster, samplesFrom } from '../../core/raster/raster';
import { wholeBlob } from '../blobs/keep';
import { openOutsideFile, openOutsideFrame } from '../work/processes';
import type { Problem } from '../problem';
import { chart } from '../visits/patients';
import { visitView } from '../visits/visits';
import { rawFile, rawPicture } from './decode/rawFile.test-data';
import { type LevelBytes, unpackedLevel } from './levelBytes';
import { rasterOf, wholeSamples } from './levels';
import { previewAt } from './previews';
import { settlePicture } from './settle';
import { pictureRow } from './views';

const clinic = useClinic();
const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-files-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

const [width, height] = [61, 47];
const random = seededRandom(3);
/** Smooth with some noise, so that every codec has something to do. */
const deep = Uint16Array.from({ length: width * height }, (_, i) =>
  Math.round(((i % width) * 700 + 900 * random.uniform()) % 65536)
);
const grey8 = Uint8Array.from(deep, (v) => v >> 8);
const colour = Uint8Array.from({ length: width * height * 3 }, (_, i) => (i * 7) % 256);
const raster = (data: Uint8Array | Uint16Array, channels: 1 | 3, bitsStored: number): Raster => ({
  width,
  height,
  channels,
  bitsStored,
  offset: 0,
  data
});
const greyPng16 = () =>
  sharp(deep, { raw: { width, height, channels: 1 } })
    .toColourspace('grey16')
    .png()
    .toBuffer();
const unplaced = { slot: null, directions: null, places: [] };
const dicom = (of: Raster, more: Partial<ObjectPixels> = {}) => {
  const { data, ...shape } = of;
  const bytes = new Uint8Array(data.buffer, data.byteOffset, data.byteLength);
  const pixels = { ...shape, frames: 1, frameMs: null, bytes, ...more };
  return Buffer.from(writeDicomFile(datasetForPicture(exampleFacts({ ...unplaced, pixels }))));
};

/** A file through the processes that open files: what it is, and a frame's samples in full. */
async function opened(bytes: Uint8Array, frame = 0) {
  const file = path.join(folder, randomUUID());
  fs.writeFileSync(file, bytes);
  const found = await openOutsideFile(file);
  const levels: LevelBytes[] = frame === 0 ? found.levels : await openOutsideFrame(file, frame);
  const samples = await unpackedLevel(levels.find((each) => each.level === 0)!);
  const { width, height, channels, bitsStored, offset } = found.opened;
  const data = samplesFrom(new Uint8Array(samples), bitsStored);
  return { ...found.opened, raster: { width, height, channels, bitsStored, offset, data } };
}

function throughTool(bytes: Buffer, ...command: string[]): Buffer {
  const [from, to] = [path.join(folder, `${randomUUID()}.in`), path.join(folder, `${randomUUID()}.out`)];
  fs.writeFileSync(from, bytes);
  execFileSync(command[0], [...command.slice(1), from, to], { stdio: 'pipe' });
  return fs.readFileSync(to);
}

describe('files that are sound', () => {
  it('PNG and TIFF, 8 and 16 bit, grey and colour, bit for bit', async () => {
    const raw = (data: Uint8Array, channels: 1 | 3) => sharp(data, { raw: { width, height, channels } });
    const tiff16 = await sharp(deep, { raw: { width, height, channels: 1 } })
      .toColourspace('grey16')
      .tiff({ compression: 'lzw' })
      .toBuffer();
    const cases: [Buffer, Uint8Array | Uint16Array, number][] = [
      [await greyPng16(), deep, 16],
      [await raw(grey8, 1).toColourspace('b-w').png().toBuffer(), grey8, 8],
      [await raw(colour, 3).png().toBuffer(), colour, 8],
      [tiff16, deep, 16],
      [await raw(colour, 3).tiff({ compression: 'deflate' }).toBuffer(), colour, 8]
    ];
    for (const [file, samples, bits] of cases) {
      const decoded = await opened(file);
      expect(decoded.raster).toMatchObject({ width, height, bitsStored: bits });
      expect(
        Buffer.from(
          decoded.raster.data.buffer,
          decoded.raster.data.byteOffset,
          decoded.raster.data.byteLength
        )
      ).toEqual(Buffer.from(samples.buffer));
    }
  });

  it('JPEG, upright whatever its orientation mark says', async () => {
    const file = await sharp(colour, { raw: { width, height, channels: 3 } })
      .withMetadata({ orientation: 6 })
      .jpeg()
      .toBuffer();
    const decoded = await opened(file);
    expect([decoded.raster.width, decoded.raster.height, decoded.raster.channels]).toEqual([
      height,
      width,
      3
    ]);
  });

  it('DICOM in every lossless syntax that Debian’s tools write, bit for bit', async () => {
    const twelve = Uint16Array.from(deep, (v) => v >> 4);
    const plain = dicom(raster(twelve, 1, 12));
    const written: Record<string, Buffer> = {
      plain,
      'implicit little endian': throughTool(plain, 'dcmconv', '+ti'),
      'big endian': throughTool(plain, 'dcmconv', '+tb'),
      deflated: throughTool(plain, 'dcmconv', '+td'),
      'run length': throughTool(plain, 'dcmcrle'),
      'JPEG lossless': throughTool(plain, 'dcmcjpeg', '+e1'),
      'JPEG lossless, any predictor': throughTool(plain, 'dcmcjpeg', '+el'),
      'JPEG-LS': throughTool(plain, 'dcmcjpls')
    };
    for (const [syntax, file] of Object.entries(written)) {
      const decoded = await opened(file);
      expect(decoded.raster.bitsStored, syntax).toBe(12);
      expect(
        Buffer.from(Uint16Array.from(decoded.raster.data).buffer).equals(Buffer.from(twelve.buffer)),
        syntax
      ).toBe(true);
    }
  });

  it('DICOM with signed samples keeps its meaning by an offset, and colour its colours', async () => {
    const rgb = await opened(dicom(raster(colour, 3, 8)));
    expect(Buffer.from(rgb.raster.data)).toEqual(Buffer.from(colour));
    const rle = await opened(throughTool(dicom(raster(colour, 3, 8)), 'dcmcrle'));
    expect(Buffer.from(rle.raster.data)).toEqual(Buffer.from(colour));
    const signed = raster(
      Uint16Array.from(deep, (v) => v >> 4),
      1,
      12
    );
    const file = dicom(signed, { offset: -2048 });
    const read = await opened(file);
    expect(read.raster.offset).toBe(-2048);
    expect([...read.raster.data]).toEqual([...signed.data]);
    // Minus one is stored with all bits set.
    const minusOne = raster(new Uint16Array(width * height).fill(2047), 1, 12);
    expect(dicom(minusOne, { offset: -2048 }).subarray(-4)).toEqual(Buffer.from([0xff, 0xff, 0xff, 0xff]));
  });

  it('DICOM loops: every frame bit for bit, plain and compressed, with the time between them', async () => {
    const frames = [0, 1, 2, 3].map((n) => Uint8Array.from(grey8, (v) => (v + 60 * n) % 256));
    const loop = dicom(raster(grey8, 1, 8), { frames: 4, frameMs: 40, bytes: Buffer.concat(frames) });
    const written = {
      plain: loop,
      'run length': throughTool(loop, 'dcmcrle'),
      'JPEG lossless': throughTool(loop, 'dcmcjpeg', '+e1'),
      'JPEG-LS': throughTool(loop, 'dcmcjpls')
    };
    for (const [syntax, file] of Object.entries(written))
      for (const [i, frame] of frames.entries()) {
        const read = await opened(file, i);
        expect([read.frames, read.frameMs], syntax).toEqual([4, 40]);
        expect(Buffer.from(read.raster.data).equals(Buffer.from(frame)), `${syntax} frame ${i}`).toBe(true);
      }
    const short = loop.subarray(0, loop.length - 100);
    await expect(opened(short, 3)).rejects.toMatchObject({ code: 'cut-off' });
  });

  it('DICOM coloured by a palette', async () => {
    const entries = 256;
    const table = (of: (i: number) => number) => Uint16Array.from({ length: entries }, (_, i) => of(i) << 8);
    const set = datasetForPicture(
      exampleFacts({
        ...unplaced,
        kind: 'other',
        pixels: { ...exampleFacts().pixels, width, height, bitsStored: 8, bytes: grey8 }
      })
    );
    const palette = dataset(
      {
        PhotometricInterpretation: 'PALETTE COLOR',
        RedPaletteColorLookupTableDescriptor: [entries, 0, 16],
        GreenPaletteColorLookupTableDescriptor: [entries, 0, 16],
        BluePaletteColorLookupTableDescriptor: [entries, 0, 16],
        RedPaletteColorLookupTableData: table((i) => i),
        GreenPaletteColorLookupTableData: table((i) => 255 - i),
        BluePaletteColorLookupTableData: table(() => 7)
      },
      {
        RedPaletteColorLookupTableDescriptor: 'US',
        GreenPaletteColorLookupTableDescriptor: 'US',
        BluePaletteColorLookupTableDescriptor: 'US'
      }
    );
    const tags = new Set(palette.map((element) => element.tag));
    const whole = [...set.filter((element) => !tags.has(element.tag)), ...palette].sort((a, b) =>
      a.tag < b.tag ? -1 : 1
    );
    const read = await opened(writeDicomFile(whole));
    expect(read.channels).toBe(3);
    for (let i = 0; i < grey8.length; i += 97)
      expect([...read.raster.data.subarray(3 * i, 3 * i + 3)]).toEqual([grey8[i], 255 - grey8[i], 7]);
  });
});

describe('files that are not', () => {
  it('are refused in plain words, each with what to do', async () => {
    const png = await greyPng16();
    const whole = dicom(raster(deep, 1, 16));
    const bomb = Buffer.from(png);
    bomb.writeUInt32BE(200_000, 16);
    bomb.writeUInt32BE(200_000, 20);
    const cases: [string, Buffer, RegExp][] = [
      ['empty', Buffer.alloc(0), /empty/],
      ['cut off PNG', png.subarray(0, png.length / 2), /cut off or damaged/],
      ['cut off DICOM', whole.subarray(0, whole.length - 500), /cut off or damaged/],
      ['a web page', Buffer.from('<!DOCTYPE html><html><script>alert(1)</script>'), /a web page/],
      ['a PDF', Buffer.from('%PDF-1.7 something'), /a PDF/],
      ['noise', Buffer.from(Array.from({ length: 4000 }, (_, i) => (i * 37 + 11) % 251)), /unknown kind/],
      ['a header that lies about its size', bomb, /cut off|pixels, more than/],
      [
        '12-bit JPEG',
        throughTool(
          dicom(
            raster(
              Uint16Array.from(deep, (v) => v >> 4),
              1,
              12
            )
          ),
          'dcmcjpeg',
          '+ee'
        ),
        /JPEG extended, 12 bit/
      ]
    ];
    for (const [name, file, words] of cases) {
      const problem = (await opened(file).catch((refused: unknown) => refused)) as Problem;
      expect(problem.sentence, name).toMatch(words);
      expect(problem.next.length, name).toBeGreaterThan(10);
    }
  });

  it('never harm the next one: 160 damaged files, then a sound one', async () => {
    const [png, plain] = [await greyPng16(), dicom(raster(deep, 1, 16))];
    const jpls = throughTool(plain, 'dcmcjpls');
    const rle = throughTool(plain, 'dcmcrle');
    const fate = seededRandom(99);
    let refused = 0;
    for (let i = 0; i < 160; i++) {
      const source = [png, plain, jpls, rle][i % 4];
      const spoilt = Buffer.from(
        source.subarray(0, fate.uniform() < 0.4 ? Math.floor(source.length * fate.uniform()) : source.length)
      );
      for (let flips = 0; flips < 6 && spoilt.length > 0; flips++) {
        spoilt[
          Math.floor(fate.uniform() * Math.min(spoilt.length, fate.uniform() < 0.5 ? 400 : spoilt.length))
        ] ^= 1 << Math.floor(fate.uniform() * 8);
      }
      const result = await opened(spoilt).catch((problem: unknown) => problem);
      if (result instanceof Error) {
        refused++;
        expect(result, String(result)).toHaveProperty('sentence');
      }
    }
    expect(refused).toBeGreaterThan(60);
    expect((await opened(png)).raster.bitsStored).toBe(16);
  });
});

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
    const handle = await fs.promises.open(path.join(folder, 'any'), 'w');
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
    process.env.YONDER_LANDING = 'off';
    await clinic.owner.query('begin');
    let held: string[] = [];
    let bringing: Promise<unknown> | null = null;
    try {
      await clinic.owner.query('select 1 from tray where tray_id = $1 for update', [trayId]);
      bringing = clinic.bring(visitId, 'late.png', file);
      for (let i = 0; i < 200 && held.length === 0; i++) {
        await new Promise((done) => setTimeout(done, 25));
        held = await waiting();
      }
    } finally {
      await clinic.owner.query('commit');
      await bringing;
      process.env.YONDER_LANDING = clinic.landing;
    }
    const all = ['blob', 'blob_part', 'picture', 'picture_level', 'picture_preview'];
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
