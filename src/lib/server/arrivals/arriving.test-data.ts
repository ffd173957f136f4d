import sharp from 'sharp';
import yazl from 'yazl';
import type { ArrivalView } from '../../core/arrivals/arrivalView';
import type { Place } from '../../core/anatomy/place';
import { dataset } from '../../core/dicom/dataset';
import { exampleFacts } from '../../core/dicom/objects/exampleFacts.test-data';
import { secondaryCaptureDataset } from '../../core/dicom/objects/secondaryCapture';
import { writeDicomFile } from '../../core/dicom/write';
import { newUid } from '../ids';
import type { Caller } from '../people/caller';
import { arrivalsOfBundle } from './arrivals';
import { bundles } from './bundles';

export interface DiscFile {
  name?: string;
  id?: string;
  birthDate?: string;
  study?: string;
  series?: string;
  number?: number;
  description?: string;
  places?: Place[];
  date?: string;
  /** Of a slice: where it lies, mm; all its samples have this value then. */
  slice?: { alongMm: number; sample: number; size?: [width: number, height: number]; plane?: number[] };
}

/** A small DICOM picture as it may lie on somebody's disc. */
export function discFile(wish: DiscFile): Buffer {
  const facts = exampleFacts();
  const { slice } = wish;
  const [width, height] = slice?.size ?? [facts.pixels.width, facts.pixels.height];
  const bytes = slice && new Uint8Array(new Uint16Array(width * height).fill(slice.sample).buffer);
  const picture = secondaryCaptureDataset({
    ...facts,
    ...(bytes && { pixels: { ...facts.pixels, width, height, bytes } }),
    patient: {
      name: wish.name ?? '',
      id: wish.id ?? '',
      birthDate: wish.birthDate ?? '',
      sex: ''
    },
    study: { ...facts.study, uid: wish.study ?? newUid(), date: wish.date ?? '20250611' },
    series: { uid: wish.series ?? newUid(), number: 1, description: wish.description ?? '' },
    instance: {
      uid: newUid(),
      number: wish.number ?? 1,
      date: wish.date ?? '20250611',
      time: '101500'
    },
    places: wish.places ?? [],
    slot: null,
    scale: null
  });
  const plane = slice
    ? dataset({
        ImagePositionPatient: slice.plane ? [slice.alongMm, 0, 0] : [0, 0, slice.alongMm],
        ImageOrientationPatient: slice.plane ?? [1, 0, 0, 0, 1, 0]
      })
    : [];
  return Buffer.from(writeDicomFile([...picture, ...plane].sort((a, b) => (a.tag < b.tag ? -1 : 1))));
}

/** A photograph or a slice of one shade. */
export const shade = (grey: number, width = 32, height = 24): Promise<Buffer> =>
  sharp(Buffer.alloc(width * height, grey), { raw: { width, height, channels: 1 } })
    .png()
    .toBuffer();

/** A ZIP package. */
export function zipped(files: Record<string, Buffer>): Promise<Buffer> {
  const zip = new yazl.ZipFile();
  for (const [name, bytes] of Object.entries(files)) zip.addBuffer(bytes, name);
  zip.end();
  return new Promise((done, fail) => {
    const parts: Buffer[] = [];
    zip.outputStream.on('data', (part: Buffer) => parts.push(part));
    zip.outputStream.on('end', () => done(Buffer.concat(parts)));
    zip.outputStream.on('error', fail);
  });
}

/** All that lies on the sorting desk, bundle by bundle. */
export async function onDesk(caller: Caller): Promise<ArrivalView[]> {
  const all = [];
  for (const { bundleId } of await bundles(caller)) all.push(...(await arrivalsOfBundle(caller, bundleId)));
  return all;
}
