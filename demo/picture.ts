import { bytesOf } from '../src/lib/core/raster/raster';
import { firstLook } from '../src/lib/core/raster/statistics';
import type { PictureKind } from '../src/lib/core/picture/pictureView';
import { keepBytes } from '../src/lib/server/blobs/keep';
import type { Tx } from '../src/lib/server/database/connection';
import { samplesMediaType } from '../src/lib/server/pictures/origin';
import { numberPicture, storePicture } from '../src/lib/server/pictures/store';
import type { Rendered } from '../standins/render/jobs';

export interface DemoVisit {
  visitId: string;
  patientId: string;
  at: Date;
}

/** Stores a rendered picture as a device of the demo clinic would have offered it. */
export async function storeRendered(
  tx: Tx,
  key: string,
  visit: DemoVisit,
  { frames, pitchMm, frameMs }: Rendered,
  how: { from: string; model: string; name: string; kind: PictureKind; by: string; secondsLater: number }
): Promise<string> {
  const [first] = frames;
  const { width, height, channels, bitsStored, offset } = first;
  const pictureId = await storePicture(tx, key, {
    patientId: visit.patientId,
    visitId: visit.visitId,
    digest: await keepBytes(tx, Buffer.concat(frames.map(bytesOf))),
    mediaType: samplesMediaType,
    fileName: how.name,
    source: 'device',
    kind: how.kind,
    width,
    height,
    channels,
    bitsStored,
    offset,
    frames: frames.length,
    frameMs,
    byName: how.by,
    firstLook: firstLook(first),
    takenAt: new Date(visit.at.getTime() + how.secondsLater * 1000),
    origin: {
      version: 2,
      from: how.from,
      manufacturer: 'Yonder Tray stand-ins',
      model: how.model,
      imagerPixelSpacing: pitchMm === null ? undefined : [pitchMm, pitchMm],
      kv: pitchMm === null ? undefined : 65,
      fileAttributes: [],
      remarks: []
    }
  });
  await numberPicture(tx, pictureId, visit.visitId);
  return pictureId;
}
