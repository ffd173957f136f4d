import type { ObjectPixels } from '../../core/dicom/objects/objectFacts';
import { secondaryCaptureDataset } from '../../core/dicom/objects/secondaryCapture';
import { writeDicomFile } from '../../core/dicom/write';
import type { Look } from '../../core/raster/look/look';
import { upright } from '../../core/raster/orientation';

export interface Wrapping {
  uids: { study: string; series: string; instance: string };
  description: string;
  /** YYYYMMDD and HHMMSS; empty where nobody says. */
  date: string;
  time: string;
  kind: 'photograph' | 'other';
  pixels: ObjectPixels;
  look: Look;
  lossy: { ratio: number; method: string } | null;
}

/** Frames of which nothing else is known as a DICOM file: a secondary capture of nobody (PS3.3 A.8). */
export function wrapped(of: Wrapping): Uint8Array {
  const { uids, description, date, time } = of;
  return writeDicomFile(
    secondaryCaptureDataset({
      patient: { name: '', id: '', birthDate: '', sex: '' },
      study: { uid: uids.study, date, time, id: '1', accession: '', description },
      series: { uid: uids.series, number: 1, description },
      instance: { uid: uids.instance, number: 1, date, time },
      equipment: { manufacturer: '', model: '', institution: '' },
      kind: of.kind,
      pixels: of.pixels,
      look: of.look,
      orientation: upright,
      directions: null,
      slot: null,
      places: [],
      detectorSpacingMm: null,
      scale: null,
      exposure: {},
      burnedIn: null,
      lossy: of.lossy
    })
  );
}
