import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { dataset } from '../../../core/dicom/dataset';
import { writeDicomFile } from '../../../core/dicom/write';
import { seededRandom } from '../../../core/random';
import { discFile, shade } from '../../arrivals/arriving.test-data';
import { headSays, headSaysOf } from './headSays';
import { openFile } from './openFile';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-heads-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));
const on = (name: string, bytes: Uint8Array) => {
  fs.writeFileSync(path.join(folder, name), bytes);
  return path.join(folder, name);
};
const slice = { alongMm: 3, sample: 5, size: [256, 256] as [number, number] };
const file = discFile({ name: 'Ostrand^Imke', birthDate: '19600131', description: 'Jaw', slice });

describe('the beginning of a file', () => {
  it('says what the whole of it says, though most of its samples are missing', async () => {
    const { opened } = await openFile(file, () => {});
    expect(headSaysOf(on('a.dcm', file))).toEqual(opened.says);
    expect(headSays(file.subarray(0, 8_000), false)).toEqual(opened.says);
  });

  it('that ends before the samples begin is read on; a head longer than most is told as well', async () => {
    const at = file.indexOf(Buffer.from([0x28, 0, 2, 0]));
    // An element of 40,000 bytes that nobody knows, before the group of the picture.
    const long = Buffer.concat([Buffer.from([0x21, 0, 1, 16, 0x4f, 0x42, 0, 0]), Buffer.alloc(4 + 40_000)]);
    long.writeUInt32LE(40_000, 8);
    const longer = Buffer.concat([file.subarray(0, at), long, file.subarray(at)]);
    expect(headSays(longer.subarray(0, 16_384), false)).toBe('longer');
    expect(headSaysOf(on('long.dcm', longer))).toMatchObject({ person: { name: 'Ostrand^Imke' } });
  });

  it('of what is no picture tells nothing, and of one that can’t be read neither', async () => {
    expect(headSaysOf(on('shade.png', await shade(80)))).toBeNull();
    expect(headSaysOf(on('empty', new Uint8Array()))).toBeNull();
    expect(headSaysOf(path.join(folder, 'nowhere'))).toBeNull();
    const report = writeDicomFile(
      dataset({ SOPClassUID: '1.2.840.10008.5.1.4.1.1.88.11', SOPInstanceUID: '2.25.1', PatientName: 'A^B' })
    );
    expect(headSaysOf(on('report.dcm', report))).toBeNull();
  });

  it('with numbers of studies that are none at all is told all the same, whole or by its beginning', async () => {
    const study = `1.${'2'.repeat(900)}`;
    const at = file.indexOf(Buffer.from([0x20, 0, 0x0d, 0, 0x55, 0x49]));
    const rest = file.subarray(at + 8 + file.readUInt16LE(at + 6));
    const odd = Buffer.concat([file.subarray(0, at + 8), Buffer.from(study), rest]);
    odd.writeUInt16LE(study.length, at + 6);
    const { opened } = await openFile(odd, () => {});
    expect(opened.says?.study.uid).toBe(study.slice(0, 128));
    expect(headSays(odd, true)).toEqual(opened.says);
  });

  it('cut off or damaged anywhere harms nothing', () => {
    const fate = seededRandom(11);
    let told = 0;
    for (let round = 0; round < 400; round++) {
      const hurt = Buffer.from(file.subarray(0, 200 + Math.floor(6_000 * fate.uniform())));
      for (let n = 0; n < 6; n++)
        hurt[132 + Math.floor((hurt.length - 132) * fate.uniform())] = 256 * fate.uniform();
      const says = headSays(hurt, fate.uniform() < 0.5);
      if (says !== null && says !== 'longer') told += 1;
    }
    expect(told).toBeGreaterThan(20);
  });
});
