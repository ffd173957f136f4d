import dicomParser, { type DataSet } from 'dicom-parser';
import { inflateRawSync } from 'node:zlib';
import { kindOfModality } from '../../../core/dicom/modality';
import { type Look, windowLook } from '../../../core/raster/look/look';
import type { Raster } from '../../../core/raster/raster';
import { firstLook } from '../../../core/raster/statistics';
import { frameOf, layoutOf } from './dicomFrames';
import { attributeList, words } from './dicomText';
import { type OpenFile, type OpenedFile, Unusable, checkSize, cutOff } from './opened';

/** A deflated file may grow to this and no further. */
const mostInflatedBytes = 512 * 1024 * 1024;

/** A DICOM picture or loop: grey, colour or by palette, 8 to 16 bits, signed or not, lossless or JPEG baseline. */
export async function openDicomFile(bytes: Uint8Array): Promise<OpenFile> {
  const set = parse(bytes);
  if (!set.elements.x7fe00010) {
    throw new Unusable(
      'no-picture',
      'This DICOM file holds no picture (it may be a report or an index).',
      'Bring in the picture files themselves.'
    );
  }
  const frames = Math.max(1, Math.floor(Number(set.intString('x00280008') ?? 1)) || 1);
  checkSize(set.uint16('x00280011') ?? 0, set.uint16('x00280010') ?? 0, frames, set.uint16('x00280002') ?? 1);
  const layout = layoutOf(set, frames);
  const first = await frameOf(set, layout, 0);
  const { width, height, channels, bitsStored, offset } = first;
  return {
    opened: {
      mediaType: 'application/dicom',
      kind: kindOfModality(set.string('x00080060') ?? ''),
      width,
      height,
      channels,
      bitsStored,
      offset,
      frames,
      frameMs: frames > 1 ? frameTime(set) : null,
      firstLook: openingLook(set, first, layout.photometric === 'MONOCHROME1'),
      origin: {
        manufacturer: words(set, 'x00080070', 'LO'),
        model: words(set, 'x00081090', 'LO'),
        pixelSpacing: pair(set, 'x00280030'),
        pixelSpacingCalibration: calibration(set),
        imagerPixelSpacing: pair(set, 'x00181164'),
        magnification: finite(set.floatString('x00181114')),
        kv: finite(set.floatString('x00180060')),
        exposureMas: undefined,
        fileAttributes: attributeList(set)
      },
      remarks: [],
      takenAt: takenAt(set),
      patient: {
        name: words(set, 'x00100010', 'PN').replaceAll('^', ' ').trim(),
        id: set.string('x00100020') ?? '',
        birthDate: set.string('x00100030') ?? ''
      }
    },
    frame: (index) => (index === 0 ? Promise.resolve(first) : frameOf(set, layout, index))
  };
}

function parse(bytes: Uint8Array): DataSet {
  try {
    return dicomParser.parseDicom(bytes, {
      inflater: (whole: Uint8Array, position: number) => {
        const rest = inflateRawSync(whole.subarray(position), { maxOutputLength: mostInflatedBytes });
        const joined = new Uint8Array(position + rest.length);
        joined.set(whole.subarray(0, position));
        joined.set(rest, position);
        return joined;
      }
    } as Parameters<typeof dicomParser.parseDicom>[1]);
  } catch (error) {
    if ((error as { code?: string }).code === 'ERR_BUFFER_TOO_LARGE') {
      throw new Unusable(
        'too-large',
        'This DICOM file unpacks to more than Yonder Tray opens.',
        'Export it again uncompressed or smaller.'
      );
    }
    throw cutOff('DICOM');
  }
}

const finite = (value: number | undefined): number | undefined =>
  value !== undefined && Number.isFinite(value) ? value : undefined;

/** From frame to frame in ms: as the file says, by its rate, or on the average of its own list. */
function frameTime(set: DataSet): number | null {
  const said = finite(set.floatString('x00181063'));
  if (said !== undefined && said > 0) return said;
  const rate = finite(set.floatString('x00180040')) ?? finite(set.floatString('x00082144'));
  if (rate !== undefined && rate > 0) return 1000 / rate;
  const count = set.numStringValues('x00181065') ?? 0;
  const steps = Array.from({ length: count }, (_, i) => set.floatString('x00181065', i) ?? 0).slice(1);
  const mean = steps.reduce((sum, step) => sum + step, 0) / Math.max(1, steps.length);
  return mean > 0 && Number.isFinite(mean) ? mean : null;
}

const functions = { LINEAR: 'linear', LINEAR_EXACT: 'linear exact', SIGMOID: 'sigmoid' } as const;

/** The file's own window, taken back from rescaled to stored values, else one from the samples. */
function openingLook(set: DataSet, raster: Raster, darkIsHigh: boolean): Look {
  const center = set.floatString('x00281050', 0);
  const width = set.floatString('x00281051', 0);
  const slope = set.floatString('x00281053') ?? 1;
  const intercept = set.floatString('x00281052') ?? 0;
  const usable =
    raster.channels === 1 &&
    [center, width, slope, intercept].every(Number.isFinite) &&
    width! >= 1 &&
    slope !== 0;
  if (!usable) {
    const look = firstLook(raster);
    return darkIsHigh ? { steps: [...look.steps, { kind: 'invert' }] } : look;
  }
  const window = { center: (center! - intercept) / slope, width: Math.max(1, width! / Math.abs(slope)) };
  const by = functions[(set.string('x00281056') ?? 'LINEAR') as keyof typeof functions] ?? 'linear';
  const look = windowLook(window, darkIsHigh !== slope < 0);
  return { steps: look.steps.map((step) => (step.kind === 'window' ? { ...step, by } : step)) };
}

function pair(set: DataSet, tag: string): [number, number] | undefined {
  const rows = finite(set.floatString(tag, 0));
  const columns = finite(set.floatString(tag, 1));
  return rows === undefined || columns === undefined ? undefined : [rows, columns];
}

function calibration(set: DataSet): 'GEOMETRY' | 'FIDUCIAL' | undefined {
  const type = set.string('x00280a02');
  return type === 'GEOMETRY' || type === 'FIDUCIAL' ? type : undefined;
}

function takenAt(set: DataSet): OpenedFile['takenAt'] {
  const date = set.string('x00080022') ?? set.string('x00080023') ?? set.string('x00080020');
  if (!date || !/^\d{8}$/.test(date)) return null;
  const clock = set.string('x00080032') ?? set.string('x00080033') ?? set.string('x00080030') ?? '';
  const time = clock.slice(0, 6);
  return {
    date,
    time: /^\d{6}$/.test(time) ? time : '000000',
    offset: set.string('x00080201') ?? undefined
  };
}
