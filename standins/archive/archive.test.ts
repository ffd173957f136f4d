import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { exampleFacts } from '../../src/lib/core/dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../../src/lib/core/dicom/objects/forPicture';
import { writeDicomFile } from '../../src/lib/core/dicom/write';
import { nextFault } from './faults';
import { readParts, writeParts } from './multipart';
import { Shelf } from './shelf';

let folder = '';
beforeEach(() => (folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-shelf-'))));
afterEach(() => fs.rmSync(folder, { recursive: true, force: true }));

const instance = (uid: string) =>
  Buffer.from(
    writeDicomFile(
      datasetForPicture(exampleFacts({ instance: { uid, number: 1, date: '20240301', time: '092233' } }))
    )
  );

describe('the archive’s shelf', () => {
  it('keeps an instance byte for byte and finds it again after a restart', () => {
    const bytes = instance('2.25.1');
    expect(new Shelf(folder).keep(bytes)).toMatchObject({ instanceUid: '2.25.1', patientId: 'PLANTED-ID' });
    const [held] = new Shelf(folder).find({ studyUid: '2.25.111' });
    expect(new Shelf(folder).bytes(held).equals(bytes)).toBe(true);
  });
  it('counts how often it was given one, and keeps the first', () => {
    const shelf = new Shelf(folder);
    shelf.keep(instance('2.25.2'));
    expect(shelf.keep(instance('2.25.2'))?.receipts).toBe(2);
    expect(shelf.find({})).toHaveLength(1);
  });
  it('keeps nothing that is no DICOM, or whose name would leave the folder', () => {
    const shelf = new Shelf(folder);
    expect(shelf.keep(Buffer.from('no picture'))).toBeNull();
    const hostile = instance('2.25.3');
    hostile.write('../../', hostile.lastIndexOf('2.25.3'), 'latin1');
    expect(shelf.keep(hostile)).toBeNull();
    expect(fs.readdirSync(folder)).toEqual([]);
  });
});

describe('multipart bodies', () => {
  it('give back what was put in, whatever bytes it holds', async () => {
    const files = [
      Buffer.from([0, 13, 10, 45, 45, 255]),
      Buffer.alloc(100_000, 7),
      Buffer.from('\r\n--x\r\n')
    ];
    const { contentType, body } = writeParts(files);
    const parts = await readParts(contentType, body);
    expect(parts.map(({ bytes }, i) => bytes.equals(files[i]))).toEqual([true, true, true]);
  });
  it('without a boundary, or cut off, are refused', async () => {
    const { contentType, body } = writeParts([Buffer.alloc(1000, 1)]);
    await expect(readParts('multipart/related', body)).rejects.toThrow();
    await expect(readParts(contentType, body.subarray(0, 600))).rejects.toThrow();
  });
});

it('mixed faults spoil a third of the requests, by each of five ways', () => {
  const faults = { kind: 'mixed' as const, remaining: 100 };
  const met = Array.from({ length: 30 }, () => nextFault(faults));
  expect(met.filter((each) => each !== 'none')).toHaveLength(10);
  expect(new Set(met).size).toBe(6);
});

it('a fault spoils as many requests as it was set for', () => {
  const faults = { kind: 'refuse' as const, remaining: 2 };
  expect([nextFault(faults), nextFault(faults), nextFault(faults)]).toEqual(['refuse', 'refuse', 'none']);
});
