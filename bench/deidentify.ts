import { createHash } from 'node:crypto';
import fs from 'node:fs';
import path from 'node:path';
import { type Leaving, deidentified } from '../src/lib/core/deidentify/deidentify';
import { identityTerms, termsStillIn } from '../src/lib/core/deidentify/residual';
import { usualRule } from '../src/lib/core/deidentify/rule';
import { exampleFacts } from '../src/lib/core/dicom/objects/exampleFacts.test-data';
import { datasetForPicture } from '../src/lib/core/dicom/objects/forPicture';
import { writeDicomFile } from '../src/lib/core/dicom/write';
import { type Row, median, times } from './report';

const width = 1300;
const height = 1700;
const rounds = 40;

/** De-identifying an object and writing it as a file, against copying the file and hashing it. */
export async function benchDeidentify(folder: string): Promise<Row[]> {
  const data = Uint16Array.from({ length: width * height }, (_, i) => (i * 48271) & 0xffff);
  const set = datasetForPicture(
    exampleFacts({ pixels: { ...exampleFacts().pixels, width, height, bytes: new Uint8Array(data.buffer) } })
  );
  const source = path.join(folder, 'identified.dcm');
  fs.writeFileSync(source, writeDicomFile(set));
  const leaving: Leaving = {
    rule: usualRule,
    pseudonym: {
      name: 'YT-BENCH22',
      dateShiftDays: -500,
      clockShiftSeconds: 600,
      replaceUid: (uid: string) => `2.25.${BigInt(`0x${createHash('md5').update(uid).digest('hex')}`)}`
    },
    terms: identityTerms(
      ['Marrowby^Isolde', 'Elizabeth Skerry', 'Osmund Pike'],
      ['QS-1004', 'A-7'],
      ['1970-03-02']
    ),
    pixelsCleaned: false
  };
  const ours = await times(rounds, (i) =>
    fs.writeFileSync(path.join(folder, `out${i}.dcm`), writeDicomFile(deidentified(set, leaving)))
  );
  const copied = await times(rounds, (i) => {
    fs.copyFileSync(source, path.join(folder, `copy${i}.dcm`));
    createHash('sha256').update(fs.readFileSync(source)).digest();
  });
  const left = deidentified(set, leaving);
  const checked = await times(rounds, () => {
    if (termsStillIn(left, leaving.terms).length > 0) throw new Error('a name was found');
  });
  return [
    {
      name: 'Search the attributes of what leaves for names, numbers and days',
      oursMs: median(checked),
      reference: 'copying and hashing it',
      referenceMs: median(copied),
      limit: 1
    },
    {
      name: 'De-identify and write a DICOM file, 1300x1700, 16 bit',
      oursMs: median(ours),
      reference: 'copying and hashing it',
      referenceMs: median(copied),
      limit: 2
    }
  ];
}
