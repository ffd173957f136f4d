import { execFileSync } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import sharp from 'sharp';
import { afterAll, describe, expect, it } from 'vitest';
import { useClinic } from '../../../../e2e/harness/clinic';
import { exampleFacts } from '../../core/dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../../core/dicom/objects/forPicture';
import { writeDicomFile } from '../../core/dicom/write';
import { seededRandom } from '../../core/random';
import type { Raster } from '../../core/raster/raster';
import { trayOfVisit } from '../trays/trays';
import { visitView } from '../visits/visits';
import { bringIn } from './bringIn';
import { decodeFile } from './decode/pool';
import { originalOf, rasterOf } from './rasters';
import { pictureRow } from './pictures';

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
const dicom = (of: Raster) =>
  Buffer.from(writeDicomFile(datasetForPicture(exampleFacts({ raster: of, slot: null }))));

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
      const decoded = await decodeFile(file);
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
    const decoded = await decodeFile(file);
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
      const decoded = await decodeFile(file);
      expect(decoded.raster.bitsStored, syntax).toBe(12);
      expect(
        Buffer.from(Uint16Array.from(decoded.raster.data).buffer).equals(Buffer.from(twelve.buffer)),
        syntax
      ).toBe(true);
    }
  });

  it('DICOM with signed samples keeps its meaning by an offset, and colour its colours', async () => {
    const rgb = await decodeFile(dicom(raster(colour, 3, 8)));
    expect(Buffer.from(rgb.raster.data)).toEqual(Buffer.from(colour));
    const rle = await decodeFile(throughTool(dicom(raster(colour, 3, 8)), 'dcmcrle'));
    expect(Buffer.from(rle.raster.data)).toEqual(Buffer.from(colour));
    const signedFile = dicom(raster(Uint16Array.of(...new Array(width * height).fill(0xffff)), 1, 16));
    const at = signedFile.indexOf(Buffer.from([0x28, 0, 0x03, 0x01]));
    signedFile[at + 8] = 1;
    const signed = await decodeFile(signedFile);
    expect(signed.raster.offset + signed.raster.data[0]).toBe(-1);
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
      const problem = await decodeFile(file).catch((refused) => refused);
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
      const result = await decodeFile(spoilt).catch((problem) => problem);
      if (result instanceof Error) {
        refused++;
        expect(result, String(result)).toHaveProperty('sentence');
      }
    }
    expect(refused).toBeGreaterThan(60);
    expect((await decodeFile(png)).raster.bitsStored).toBe(16);
  });
});

describe('bringing a file in', () => {
  it('keeps the original byte for byte, whatever it is called, on the bench or in a slot', async () => {
    const visitId = await clinic.newVisit();
    const file = await greyPng16();
    const { tray } = await clinic.inside((tx) => trayOfVisit(tx, visitId));
    const slotId = tray.route[1];
    const bytes = new Uint8Array(file);
    const one = await bringIn(clinic.caller('front-desk'), {
      visitId,
      slotId: null,
      fileName: 'holiday.txt',
      bytes,
      key: randomUUID()
    });
    const two = await bringIn(clinic.caller('assistant'), {
      visitId,
      slotId,
      fileName: 'b.png',
      bytes,
      key: randomUUID()
    });
    const after = await clinic.inside((tx) => trayOfVisit(tx, visitId));
    expect(after.tray.bench).toEqual([one.pictureId]);
    expect(after.tray.wells[slotId].keeper).toBe(two.pictureId);
    await clinic.inside(async (tx) => {
      const row = await pictureRow(tx, one.pictureId);
      expect((await originalOf(tx, row)).equals(file)).toBe(true);
      expect([...(await rasterOf(tx, row)).data]).toEqual([...deep]);
    });
  });

  it('offered twice with one key is one picture; a refused one leaves nothing', async () => {
    const visitId = await clinic.newVisit();
    const file = {
      visitId,
      slotId: null,
      fileName: 'a.png',
      bytes: new Uint8Array(await greyPng16()),
      key: randomUUID()
    };
    const [one, two] = await Promise.all([bringIn(clinic.caller(), file), bringIn(clinic.caller(), file)]);
    expect(one.pictureId).toBe(two.pictureId);
    const before = await clinic.count('picture');
    await expect(
      bringIn(clinic.caller(), { ...file, bytes: new Uint8Array(5), key: randomUUID() })
    ).rejects.toMatchObject({ status: 422 });
    expect(await clinic.count('picture')).toBe(before);
  });

  it('says so when the file carries another name, and not when it is the patient’s in another order', async () => {
    const visitId = await clinic.newVisit();
    const named = (name: string) =>
      new Uint8Array(
        writeDicomFile(
          datasetForPicture(exampleFacts({ slot: null, patient: { name, id: '1', birthDate: '', sex: '' } }))
        )
      );
    const remarks = async (name: string) => {
      const { pictureId } = await bringIn(clinic.caller(), {
        visitId,
        slotId: null,
        fileName: 'x.dcm',
        bytes: named(name),
        key: randomUUID()
      });
      return (await visitView(clinic.caller(), visitId)).pictures.find(
        (each) => each.pictureId === pictureId
      )!.remarks;
    };
    expect(await remarks('Somebody^Else')).toEqual([expect.stringContaining('Somebody Else')]);
    expect(await remarks('WAVECREST^Ódile')).toEqual([]);
  });

  it('takes spacing from a DICOM file and none from a PNG', async () => {
    const visitId = await clinic.newVisit();
    const withSpacing = new Uint8Array(writeDicomFile(datasetForPicture(exampleFacts())));
    await bringIn(clinic.caller(), {
      visitId,
      slotId: null,
      fileName: 'a.dcm',
      bytes: withSpacing,
      key: randomUUID()
    });
    await bringIn(clinic.caller(), {
      visitId,
      slotId: null,
      fileName: 'b.png',
      bytes: new Uint8Array(await greyPng16()),
      key: randomUUID()
    });
    const { pictures } = await visitView(clinic.caller(), visitId);
    expect(pictures.map((each) => each.scale?.source ?? null)).toEqual(['detector', null]);
  });
});
