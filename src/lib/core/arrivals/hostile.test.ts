import { describe, expect, it } from 'vitest';
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

const random = seededRandom(2026);
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
function damaged(bytes: Uint8Array): Uint8Array {
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

describe('2,000 damaged files', () => {
  it('are read or refused as none, and what is read of them is within its limits', () => {
    let read = 0;
    for (let i = 0; i < 2_000; i++) {
      const bytes = damaged(whole[i % whole.length]);
      let set;
      try {
        set = readDicom(bytes, () => new Uint8Array());
      } catch (error) {
        expect(error).toBeInstanceOf(NotReadable);
        continue;
      }
      read++;
      const says = saysOf(set, (of, tag) => latinText(valueBytes(of, tag) ?? new Uint8Array()));
      expect(saysSchema.safeParse(says).success).toBe(true);
      expect(shownIn(says, 'IM0001').name.length).toBeLessThan(200);
      expect(whoseItMayBe(says.person, [], []).list).toEqual([]);
      for (const { path, outside } of indexedFiles(set))
        if (path.split('/').includes('..')) expect(outside).toBe(true);
    }
    // Enough came through for the test to mean something.
    expect(read).toBeGreaterThan(500);
  });
});
