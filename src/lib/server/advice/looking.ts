import { isInMouth } from '../../core/anatomy/projections';
import { adviceOn } from '../../core/raster/advice/advice';
import { type ExposureNorm, intraoralNorm } from '../../core/raster/advice/levels';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { rasterOf } from '../pictures/levels';
import { pictureRow, viewOf } from '../pictures/views';
import type { LookingWish } from './lookingWish';
import { type Found, keepAdvice, takeBefore } from './queries';

/** Smaller ones say nothing about a take. */
const leastSidePx = 100;

/** What is usual is known of sensors in the mouth only; of other detectors neither too much nor too little is told. */
const anyExposure: ExposureNorm = { dark: { low: 0, high: 1 }, mostBlack: 1 };

/**
 * Looks at a take and keeps what it saw; its pages are told. For radiographs only: what is wrong with a photograph its
 * maker sees. Called in a process where nobody waits.
 */
export async function lookAt({ clinicId, pictureId }: LookingWish): Promise<Found> {
  const { row, view, before } = await inClinic(clinicId, async (tx) => ({
    row: await pictureRow(tx, pictureId),
    view: await viewOf(tx, pictureId, ''),
    before: await takeBefore(tx, pictureId)
  }));
  const { kind, channels, frames, width, height, visitId, slot } = view;
  const tells =
    kind === 'radiograph' && channels === 1 && frames === 1 && Math.min(width, height) >= leastSidePx;
  let found: Found = [];
  if (tells) {
    const raster = await rasterOf(clinicId, row, 0, 0);
    const earlier = before
      ? await rasterOf(clinicId, await inClinic(clinicId, (tx) => pictureRow(tx, before.pictureId)), 0, 0)
      : undefined;
    const norm = slot && isInMouth(slot.projection) ? intraoralNorm : anyExposure;
    found = adviceOn(raster, { norm, earlier })
      .filter((each) => each.kind !== 'turned' || before?.sameSlot)
      .map(({ kind: what, confidence, description, where }) => ({
        kind: what,
        confidence,
        description,
        where
      }));
  }
  await inClinic(clinicId, async (tx) => {
    await keepAdvice(tx, pictureId, found);
    await announce(tx, { topic: 'picture', visitId, pictureId, view: null });
  });
  return found;
}
