import { inflateRawSync } from 'node:zlib';
import { pixelDataTag } from '../../../core/dicom/dictionary';
import { kindOfModality } from '../../../core/dicom/modality';
import { NotReadable, type ReadFile, readDicom } from '../../../core/dicom/read';
import type { ReadSet } from '../../../core/dicom/readSet';
import { code, decimal, short } from '../../../core/dicom/readValues';
import { shortened } from '../../../core/text';
import { framesHeld, frameOf, layoutOf } from './dicomFrames';
import { openingLook } from './dicomLook';
import { attributeList, numberWithin, readerFor, saysIn, words } from './dicomText';
import { syntaxOf } from './syntaxByLooks';
import { takenAt } from './dicomTime';
import { type Announce, type OpenFile, Unusable, checkFrames, checkSize, cutOff } from './opened';

/** A deflated file may grow to this and no further. */
const mostInflatedBytes = 512 * 1024 * 1024;

/** A DICOM picture or loop: grey, colour or by palette, 8 to 16 bits, signed or not, lossless or JPEG baseline. */
export async function openDicomFile(bytes: Uint8Array, announce: Announce): Promise<OpenFile> {
  const set = parse(bytes);
  const reader = readerFor(set);
  if (!set.elements.has(pixelDataTag)) throw noPicture(set);
  const frames = framesSaid(set);
  checkSize(short(set, '00280011') ?? 0, short(set, '00280010') ?? 0, frames, short(set, '00280002') ?? 1);
  const remarks = [...set.remarks, ...(reader.remark ? [reader.remark] : [])];
  const layout = layoutOf(set, syntaxOf(set, remarks), frames);
  checkFrames(frames, framesHeld(set, layout));
  announce(layout.width * layout.height * layout.channels * (layout.bitsAllocated / 8));
  const first = await frameOf(set, layout, 0);
  const { width, height, channels, bitsStored, offset } = first;
  remarks.push(...layout.remarks);
  const number = (tag: string, what: string, within: [number, number]) =>
    numberWithin(set, tag, what, within, remarks);
  const name = words(set, '00100010', reader).split('=')[0].replaceAll('^', ' ').trim();
  const look = openingLook(set, first, layout, remarks);
  const taken = takenAt(set, remarks);
  if (overlays(set))
    remarks.push('The file holds drawings or words in a layer of their own (overlay), which are not shown.');
  const spacing = { pixelSpacing: pair(set, '00280030', 'pixel spacing', remarks) };
  return {
    opened: {
      mediaType: 'application/dicom',
      kind: kindOfModality(code(set, '00080060') ?? ''),
      width,
      height,
      channels,
      bitsStored,
      offset,
      frames,
      frameMs: frames > 1 ? frameTime(set) : null,
      firstLook: look,
      origin: {
        manufacturer: shortened(words(set, '00080070', reader), 64),
        model: shortened(words(set, '00081090', reader), 64),
        ...spacing,
        pixelSpacingCalibration: calibration(set),
        imagerPixelSpacing: pair(set, '00181164', 'spacing at the detector', remarks),
        pixelAspect: aspect(set, spacing.pixelSpacing),
        magnification: number('00181114', 'magnification', [0.1, 100]),
        sourceToDetectorMm: number('00181110', 'distance from tube to detector', [100, 10_000]),
        kv: number('00180060', 'tube voltage', [1, 1000]),
        exposureMas: undefined,
        instanceUid: code(set, '00080018')?.slice(0, 64),
        fileAttributes: attributeList(set, reader)
      },
      remarks: remarks.map((remark) => shortened(remark, 300)),
      takenAt: taken,
      patient: { name, id: words(set, '00100020', reader), birthDate: code(set, '00100030') ?? '' },
      says: saysIn(set, reader)
    },
    frame: (index) => (index === 0 ? Promise.resolve(first) : frameOf(set, layout, index))
  };
}

function parse(bytes: Uint8Array): ReadFile {
  try {
    return readDicom(bytes, (packed) => inflateRawSync(packed, { maxOutputLength: mostInflatedBytes }));
  } catch (error) {
    if ((error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE') {
      throw new Unusable(
        'too-large',
        'This DICOM file unpacks to more than Yonder Tray opens.',
        'Export it again uncompressed or smaller.'
      );
    }
    if (error instanceof NotReadable || (error as { code?: string }).code?.startsWith('Z_'))
      throw cutOff('DICOM');
    throw error;
  }
}

function noPicture(set: ReadFile): Unusable {
  if (set.elements.has('7FE00008') || set.elements.has('7FE00009')) {
    return new Unusable(
      'unsupported-depth',
      'This DICOM file has samples with fractions, which can’t be shown.',
      'Export it with 8 or 16 bits.'
    );
  }
  if (set.remarks.length > 0 && short(set, '00280010') !== undefined) return cutOff('DICOM');
  return new Unusable(
    'no-picture',
    'This DICOM file holds no picture (it may be a report or an index).',
    'Bring in the picture files themselves.'
  );
}

/** How many frames the file says it has. A number that is none is one frame, as where none stands. */
function framesSaid(set: ReadSet): number {
  const said = decimal(set, '00280008');
  return said !== undefined && said >= 1 ? Math.floor(said) : 1;
}

/** Whether there is an overlay plane (groups 6000 to 601E). */
const overlays = (set: ReadSet): boolean =>
  [...set.elements.keys()].some((tag) => /^60[01][02468ACE]3000$/.test(tag));

/** From frame to frame in ms: as the file says, by its rate, or on the average of its own list. */
function frameTime(set: ReadSet): number | null {
  const within = (value: number | undefined) =>
    value !== undefined && value >= 0.1 && value <= 600_000 ? value : null;
  const said = within(decimal(set, '00181063'));
  if (said !== null) return said;
  const rate = decimal(set, '00180040') ?? decimal(set, '00082144');
  if (rate !== undefined && rate > 0) return within(1000 / rate);
  const steps: number[] = [];
  for (let i = 1; i < 4_000; i++) {
    const step = decimal(set, '00181065', i);
    if (step === undefined) break;
    steps.push(step);
  }
  return within(steps.reduce((sum, step) => sum + step, 0) / Math.max(1, steps.length));
}

/** Two spacings in mm, between rows and between columns; both or none. */
function pair(set: ReadSet, tag: string, what: string, remarks: string[]): [number, number] | undefined {
  const within = [1e-4, 100] as const;
  const rows = numberWithin(set, tag, what, within, remarks, 0);
  if (rows === undefined) return undefined;
  const columns = numberWithin(set, tag, what, within, remarks, 1);
  return columns === undefined ? undefined : [rows, columns];
}

function calibration(set: ReadSet): 'GEOMETRY' | 'FIDUCIAL' | undefined {
  const type = code(set, '00280A02');
  return type === 'GEOMETRY' || type === 'FIDUCIAL' ? type : undefined;
}

/** Pixels that are nearly square are. */
const squareShare = 0.005;

/** How much taller than wide a pixel is, where it is not square: by its spacing, else by its aspect ratio. */
function aspect(set: ReadSet, spacing: [number, number] | undefined): number | undefined {
  const [tall, wide] = [decimal(set, '00280034', 0), decimal(set, '00280034', 1)];
  const said = tall && wide && tall > 0 && wide > 0 ? tall / wide : 1;
  const ratio = spacing ? spacing[0] / spacing[1] : said;
  return Math.abs(ratio - 1) > squareShare && ratio > 0.05 && ratio < 20 ? ratio : undefined;
}
