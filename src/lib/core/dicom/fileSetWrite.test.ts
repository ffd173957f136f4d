import { spawnSync } from 'node:child_process';
import fs from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { afterAll, expect, it } from 'vitest';
import { indexedFiles } from './fileSet';
import { filedPath, writeFileSetIndex } from './fileSetWrite';
import { everyKind } from './objects/everyKind.test-data';
import { exampleFacts } from './objects/exampleFacts.test-data';
import { datasetForPicture } from './objects/forPicture';
import { readDicom } from './read';
import { writeDicomFile } from './write';

const folder = fs.mkdtempSync(path.join(os.tmpdir(), 'yonder-file-set-'));
afterAll(() => fs.rmSync(folder, { recursive: true, force: true }));

it('indexes objects of every kind, of several patients and visits, so that other programs find each', () => {
  const objects = Object.values(everyKind).map((facts, i) => {
    const visit = i % 3;
    const set = datasetForPicture(
      exampleFacts({
        ...facts,
        study: { ...exampleFacts().study, uid: `2.25.11${visit}` },
        series: { uid: `2.25.22${i % 7}${visit}`, number: 1 + (i % 7), description: '' },
        instance: { ...exampleFacts().instance, uid: `2.25.333${i}`, number: i + 1 }
      })
    );
    return { path: filedPath(i + 1), set };
  });
  for (const { path: parts, set } of objects) {
    const at = path.join(folder, ...parts);
    fs.mkdirSync(path.dirname(at), { recursive: true });
    fs.writeFileSync(at, writeDicomFile(set));
  }
  const index = writeFileSetIndex(objects, '2.25.999');
  fs.writeFileSync(path.join(folder, 'DICOMDIR'), index);
  const dumped = spawnSync('dcdirdmp', [path.join(folder, 'DICOMDIR')], { encoding: 'utf8' });
  const said = dumped.stdout + dumped.stderr;
  for (const { path: parts } of objects) expect(said).toContain(parts.at(-1)!);
  expect(said).not.toMatch(/error/i);
  const judged = spawnSync('dciodvfy', [path.join(folder, 'DICOMDIR')], { encoding: 'utf8' });
  expect(judged.stderr.split('\n').filter((line) => line.startsWith('Error'))).toEqual([]);
  const read = indexedFiles(readDicom(index, (packed) => packed));
  expect(read.map((each) => each.path)).toEqual(
    expect.arrayContaining(objects.map(({ path: parts }) => parts.join('/')))
  );
  expect(read.some(({ outside }) => outside)).toBe(false);
});

it('holds no file whose name a file-set can’t have', () => {
  const set = datasetForPicture(exampleFacts());
  for (const bad of [['lower'], ['TOOLONGNAME'], ['..'], Array(9).fill('A')])
    expect(() => writeFileSetIndex([{ path: bad, set }], '2.25.9')).toThrow(RangeError);
});
