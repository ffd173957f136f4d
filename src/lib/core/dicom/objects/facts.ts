import type { Look } from '../../raster/look';
import type { Orientation } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import type { Slot } from '../../tray/tray';

/** All that is known of a picture when it is written as a DICOM object. Dates are YYYYMMDD, times HHMMSS. */
export interface PictureFacts {
  patient: { name: string; id: string; birthDate: string; sex: 'M' | 'F' | 'O' | '' };
  study: { uid: string; date: string; time: string; id: string; accession: string; description: string };
  series: { uid: string; number: number; description: string };
  instance: { uid: string; number: number; date: string; time: string };
  equipment: { manufacturer: string; model: string; institution: string };
  raster: Raster;
  look: Look;
  orientation: Orientation;
  slot: Slot | null;
  /** FDI, of the linked teeth, else those of the slot. */
  teeth: number[];
  /** Spacing at the detector in mm, rows then columns, where the device said so. */
  detectorSpacingMm: [number, number] | null;
  exposure: { kv?: number; exposureMas?: number };
  /** Whether lettering is known to stand in the pixels; null where nobody said. */
  burnedIn: boolean | null;
  /** Set once a picture went through a compression that loses something, also if it is stored whole now. */
  lossy: { ratio: number; method: string } | null;
}
