import { bytesOf } from '../src/lib/core/raster/raster';
import { firstLook } from '../src/lib/core/raster/statistics';
import { samplesMediaType } from '../src/lib/server/pictures/facts';
import type { NewPicture } from '../src/lib/server/pictures/store';
import type { Rendered } from '../standins/render/jobs';

export interface DemoVisit {
  visitId: string;
  patientId: string;
  at: Date;
}

/** A rendered picture as a device of the demo clinic would have offered it. */
export function newPicture(
  visit: DemoVisit,
  { raster, pitchMm }: Rendered,
  how: { from: string; model: string; name: string; secondsLater: number }
): NewPicture {
  return {
    patientId: visit.patientId,
    visitId: visit.visitId,
    original: bytesOf(raster),
    mediaType: samplesMediaType,
    fileName: how.name,
    source: 'device',
    raster,
    takenAt: new Date(visit.at.getTime() + how.secondsLater * 1000),
    facts: {
      version: 1,
      from: how.from,
      manufacturer: 'Yonder Tray stand-ins',
      model: how.model,
      imagerPixelSpacing: pitchMm === null ? undefined : [pitchMm, pitchMm],
      kv: pitchMm === null ? undefined : 65,
      firstLook: firstLook(raster),
      fileAttributes: [],
      remarks: []
    }
  };
}
