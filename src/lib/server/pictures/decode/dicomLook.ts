import type { ReadSet } from '../../../core/dicom/readSet';
import { codes } from '../../../core/dicom/readValues';
import type { WindowFunction } from '../../../core/raster/filters/tables';
import { type Look, type LookStep, inverted } from '../../../core/raster/look/look';
import type { Raster } from '../../../core/raster/raster';
import { firstLook } from '../../../core/raster/statistics';
import type { PixelLayout } from './dicomFrames';
import { numberWithin } from './dicomText';
import { tableOf } from './palette';

const functions: Record<string, WindowFunction> = {
  LINEAR: 'linear',
  LINEAR_EXACT: 'linear exact',
  SIGMOID: 'sigmoid'
};

/** From stored to rescaled values (PS3.3 C.11.1); the identity where a table has made them already. */
interface Rescale {
  slope: number;
  intercept: number;
}

/**
 * The look a file opens with: its own window or table, taken back from rescaled to stored values, else one from the
 * samples. Dark and light change places for MONOCHROME1.
 */
export function openingLook(set: ReadSet, raster: Raster, layout: PixelLayout, remarks: string[]): Look {
  if (raster.channels === 3) return firstLook(raster);
  const rescale = rescaleOf(set, layout, remarks);
  const step = windowStep(set, rescale, remarks) ?? tableStep(set, rescale, raster, layout);
  const look: Look = step ? { steps: [step] } : firstLook(raster);
  const falls = step?.kind === 'window' && rescale.slope < 0;
  return (layout.photometric === 'MONOCHROME1') !== falls ? inverted(look) : look;
}

function rescaleOf(set: ReadSet, { modality }: PixelLayout, remarks: string[]): Rescale {
  if (modality) return { slope: 1, intercept: 0 };
  const within = [-1e6, 1e6] as const;
  const slope = numberWithin(set, '00281053', 'rescale slope', within, remarks) ?? 1;
  const intercept = numberWithin(set, '00281052', 'rescale intercept', within, remarks) ?? 0;
  return Math.abs(slope) < 1e-6 ? { slope: 1, intercept: 0 } : { slope, intercept };
}

/**
 * The window in stored values. A linear one is, by its definition (PS3.3 C.11.2.1.2.1), half a value lower and one value
 * narrower than its numbers say, which scales apart from them.
 */
function windowStep(set: ReadSet, { slope, intercept }: Rescale, remarks: string[]): LookStep | null {
  const center = numberWithin(set, '00281050', 'window centre', [-1e7, 1e7], remarks);
  const width = numberWithin(set, '00281051', 'window width', [1e-6, 1e7], remarks);
  if (center === undefined || width === undefined) return null;
  const said = codes(set, '00281056')[0] || 'LINEAR';
  const by = functions[said];
  if (by === undefined || (by === 'linear' && width < 1)) {
    remarks.push(
      'The file’s window is of a kind that is not known; the picture opens with one of its own samples.'
    );
    return null;
  }
  const scale = Math.abs(slope);
  if (by !== 'linear')
    return { kind: 'window', center: (center - intercept) / slope, width: width / scale, by };
  return {
    kind: 'window',
    center: (center - 0.5 - intercept) / slope + 0.5,
    width: (width - 1) / scale + 1,
    by
  };
}

/** The file's table of values of interest (PS3.3 C.11.2.1.1), brought to stored values. */
function tableStep(
  set: ReadSet,
  { slope, intercept }: Rescale,
  raster: Raster,
  layout: PixelLayout
): LookStep | null {
  const item = set.elements.get('00283010')?.items?.[0];
  if (!item) return null;
  const signed = layout.signed || intercept < 0;
  const { first, bits, entries } = tableOf(item, '00283002', '00283006', signed);
  const top = 2 ** bits - 1;
  if (slope === 1 && Number.isInteger(intercept))
    return { kind: 'table', first: first - intercept, entries: [...entries], top };
  const last = entries.length - 1;
  const all = Array.from({ length: 2 ** raster.bitsStored }, (_, sample) => {
    const value = slope * (sample + raster.offset) + intercept;
    return entries[Math.min(last, Math.max(0, Math.round(value) - first))];
  });
  return { kind: 'table', first: raster.offset, entries: all, top };
}
