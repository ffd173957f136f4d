import type { Place } from '../../anatomy/place';
import type { Scale } from '../../calibration/scale';
import type { JpegBody } from '../jpegBody';
import type { FramesShape, PictureKind } from '../../picture/pictureView';
import type { Look } from '../../raster/look/look';
import type { Orientation } from '../../raster/orientation';
import type { Slot } from '../../tray/slot';

/** The samples of all frames one after the other, as little-endian bytes, colour by pixel. */
export interface ObjectPixels extends FramesShape {
  /** From frame to frame, where the maker said so. */
  frameMs: number | null;
  bytes: Uint8Array;
  /** The JPEG that a still came as, where it stands in the object as it is, in place of the samples. */
  jpeg?: JpegBody;
}

/** All that is known of a picture when it is written as a DICOM object. Dates are YYYYMMDD, times HHMMSS. */
export interface ObjectFacts {
  patient: {
    name: string;
    id: string;
    birthDate: string;
    sex: 'M' | 'F' | 'O' | '';
    /** Of an animal. */
    species?: string;
    owner?: string;
  };
  study: { uid: string; date: string; time: string; id: string; accession: string; description: string };
  series: { uid: string; number: number; description: string };
  instance: { uid: string; number: number; date: string; time: string };
  equipment: { manufacturer: string; model: string; institution: string };
  kind: PictureKind;
  pixels: ObjectPixels;
  look: Look;
  orientation: Orientation;
  /** Directions of the stored rows and columns, from the slot or from the file it came in; null where neither says. */
  directions: [string, string] | null;
  slot: Slot | null;
  /** Places it was linked to, else those of its slot. */
  places: Place[];
  /** Spacing at the detector in mm, rows then columns, where the device said so. */
  detectorSpacingMm: [number, number] | null;
  /** The scale in use; null where there is none. */
  scale: Scale | null;
  exposure: { kv?: number; exposureMas?: number };
  /** Whether lettering is known to stand in the pixels; null where nobody said. */
  burnedIn: boolean | null;
  /** Set once a picture went through a compression that loses something, also if it is stored whole now. */
  lossy: { ratio: number; method: string } | null;
}
