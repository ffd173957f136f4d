import { exampleFacts } from '../dicom/objects/exampleFacts.test-data';
import { indexedFiles } from '../dicom/fileSet';
import { secondaryCaptureDataset } from '../dicom/objects/secondaryCapture';
import { NotReadable, readDicom } from '../dicom/read';
import { latinText, valueBytes } from '../dicom/readValues';
import { saysOf } from '../dicom/saysOf';
import { dataset } from '../dicom/dataset';
import { writeDicomFile } from '../dicom/write';
import { whoseItMayBe } from '../people/whose';
import { seededRandom } from '../random';
import { saysSchema } from './says';
import { shownIn } from './shows';

const whole = [
  writeDicomFile(secondaryCaptureDataset(exampleFacts())),
  writeDicomFile(
    dataset({
      SOPClassUID: '1.2.840.10008.1.3.10',
      SOPInstanceUID: '2.25.1',
      DirectoryRecordSequence: Array.from({ length: 6 }, (_, i) => ({
        DirectoryRecordType: 'IMAGE',
        ReferencedFileID: ['IMAGES', `IM${i}`]
      }))
    })
  )
];
/** Bytes changed, taken out, doubled, cut off or made of noise, as discs and people have it. */
function damaged(bytes: Uint8Array, random: ReturnType<typeof seededRandom>): Uint8Array {
  const at = () => Math.floor(random.uniform() * bytes.length);
  const out = Uint8Array.from(bytes);
  switch (Math.floor(random.uniform() * 5)) {
    case 0:
      for (let i = 0; i < 1 + 12 * random.uniform(); i++) out[at()] = 256 * random.uniform();
      return out;
    case 1:
      return out.subarray(0, at());
    case 2: {
      const from = at();
      return Uint8Array.from([
        ...out.subarray(0, from),
        ...out.subarray(Math.min(bytes.length, from + 40 * random.uniform()))
      ]);
    }
    case 3:
      out.fill(0xff, at(), at());
      return out;
    default: {
      const from = at();
      return Uint8Array.from([
        ...out.subarray(0, from),
        ...out.subarray(Math.max(0, from - 60)),
        ...out.subarray(from)
      ]);
    }
  }
}

/** What is read of files that are damaged by a seed, and what of it should not have been. */
export function readDamaged(count: number, seed: number): { read: number; wrong: string[] } {
  const random = seededRandom(seed);
  const wrong: string[] = [];
  let read = 0;
  for (let i = 0; i < count; i++) {
    const bytes = damaged(whole[i % whole.length], random);
    let set;
    try {
      set = readDicom(bytes, () => new Uint8Array());
    } catch (error) {
      if (!(error instanceof NotReadable)) wrong.push(`file ${i}: ${String(error)}`);
      continue;
    }
    read++;
    const says = saysOf(set, (of, tag) => latinText(valueBytes(of, tag) ?? new Uint8Array()));
    if (!saysSchema.safeParse(says).success) wrong.push(`file ${i}: says what can't be kept`);
    if (shownIn(says, 'IM0001').name.length >= 200) wrong.push(`file ${i}: a name without end`);
    if (whoseItMayBe(says.person, [], []).list.length > 0) wrong.push(`file ${i}: somebody who is not there`);
    for (const { path, outside } of indexedFiles(set))
      if (path.split('/').includes('..') && !outside) wrong.push(`file ${i}: ${path} is not outside`);
  }
  return { read, wrong };
}
