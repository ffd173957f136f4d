import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import dicomParser from 'dicom-parser';
import { afterAll, describe, expect, it } from 'vitest';
import { fullMouth } from '../../tray/fullMouth';
import { writeDicomFile } from '../write';
import { exampleFacts } from './exampleFacts.test-data';
import type { PictureFacts } from './facts';
import { datasetForPicture } from './forPicture';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-objects-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

const inverted = { window: { center: 30000, width: 60000 }, inverted: true };
const lossy = { ratio: 11.4, method: 'ISO_10918_1' };
const colour = {
  width: 6,
  height: 4,
  channels: 3 as const,
  bitsStored: 8,
  offset: 0,
  data: Uint8Array.from({ length: 72 }, (_, i) => i * 3)
};
const kinds: Record<string, Partial<PictureFacts>> = {
  'a bitewing': {},
  'a bitewing seen inverted': { look: inverted },
  'an upper front tooth': { slot: fullMouth.slots.find(({ id }) => id === 'pa-upper-incisors')! },
  'a lower molar that may hold lettering': { slot: fullMouth.slots.at(-1)!, burnedIn: null },
  'a picture in no slot': { slot: null, teeth: [] },
  'a picture in no slot, inverted': { slot: null, teeth: [], look: inverted, burnedIn: true },
  'a photograph that was a JPEG': { slot: null, teeth: [], raster: colour, lossy, burnedIn: null },
  'a slot’s picture that was a JPEG': { lossy },
  'someone of no known birthday': { patient: { name: 'Only^Name', id: 'X1', birthDate: '', sex: '' } }
};

describe.each(Object.entries(kinds))('%s', (name, changes) => {
  const file = writeDicomFile(datasetForPicture(exampleFacts(changes)));
  const target = path.join(folder, `${name.replace(/\W+/g, '-')}.dcm`);
  fs.writeFileSync(target, file);

  it('has no error for an independent validator', () => {
    const { stderr } = spawnSync('dciodvfy', [target], { encoding: 'utf8' });
    expect(stderr.length).toBeGreaterThan(0);
    expect(stderr.split('\n').filter((line) => line.startsWith('Error'))).toEqual([]);
  });
  it('is read whole by another toolkit', () => {
    const { status } = spawnSync('dcmdump', ['-q', target]);
    expect(status).toBe(0);
  });
});

describe('what an object says of its pixels', () => {
  const read = (changes: Partial<PictureFacts>) =>
    dicomParser.parseDicom(writeDicomFile(datasetForPicture(exampleFacts(changes))));
  it('is dark for dense where it is seen inverted, and the other way round else', () => {
    expect(read({ look: inverted }).string('x00280004')).toBe('MONOCHROME1');
    expect(read({ look: inverted }).string('x20500020')).toBe('INVERSE');
    expect(read({}).string('x00280004')).toBe('MONOCHROME2');
  });
  it('keeps a loss of the past in mind', () => {
    expect(read({ lossy }).string('x00282110')).toBe('01');
    expect(read({ lossy }).floatString('x00282112')).toBeCloseTo(11.4, 6);
    expect(read({}).string('x00282110')).toBe('00');
  });
  it('never says that there is no lettering unless that is known', () => {
    expect(read({ slot: null, burnedIn: null }).string('x00280301')).toBeUndefined();
    expect(read({ burnedIn: null }).string('x00280301')).toBe('YES');
    expect(read({ burnedIn: false }).string('x00280301')).toBe('NO');
  });
});
