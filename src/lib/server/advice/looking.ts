import { isInMouth } from '../../core/anatomy/projections';
import { placeKey } from '../../core/anatomy/place';
import type { PictureView } from '../../core/picture/pictureView';
import { seenIn } from '../../core/raster/advice/advice';
import type { ExposureSaid } from '../../core/raster/advice/exposureIndex';
import { anyExposure, intraoralNorm } from '../../core/raster/advice/levels';
import { usualDose } from '../../core/raster/advice/usualDose';
import { isInverted } from '../../core/raster/look/look';
import { slotSide } from '../../core/tray/slot';
import { slotCrowns } from '../../core/tray/slotCrowns';
import { inClinic } from '../database/connection';
import { announce } from '../news/announce';
import { rasterOf } from '../pictures/levels';
import { type Origin, fileText, readOrigin } from '../pictures/origin';
import { pictureRow, viewOf } from '../pictures/views';
import type { LookingWish } from './lookingWish';
import { type DoseSeen, type Found, keepAdvice, keptDoses, takeBefore } from './queries';

/** Smaller ones say nothing about a take. */
const leastSidePx = 100;

/** Exposure Index, its target, and how far the one is from the other, where the file has them. */
function exposureSaidIn(origin: Origin): ExposureSaid {
  const number = (tag: string) => {
    const text = fileText(origin, tag)?.trim();
    return text ? Number(text) : undefined;
  };
  return { index: number('00181411'), target: number('00181412'), deviation: number('00181413') };
}

/** A device and a view that need the same dose again and again, in one fineness; null for what lies in no slot. */
function doseView({ from, slot, width, height }: PictureView): string | null {
  if (!slot) return null;
  const fineness = Math.round(Math.log2(width * height));
  return [from, slot.projection, ...slot.places.map(placeKey).sort(), `2^${fineness} pixels`].join(' | ');
}

/**
 * Looks at a take and keeps what it saw; its pages are told. For radiographs only: what is wrong with a photograph its
 * maker sees. Called in a process where nobody waits.
 */
export async function lookAt({ clinicId, pictureId }: LookingWish): Promise<Found> {
  const { row, view, before } = await inClinic(clinicId, async (tx) => ({
    row: await pictureRow(tx, pictureId, 'away'),
    view: await viewOf(tx, pictureId, '', 'away'),
    before: await takeBefore(tx, pictureId)
  }));
  const { kind, channels, frames, width, height, visitId, slot } = view;
  const tells =
    kind === 'radiograph' && channels === 1 && frames === 1 && Math.min(width, height) >= leastSidePx;
  const dose: DoseSeen = { span: null, view: tells ? doseView(view) : null };
  let found: Found = [];
  if (tells) {
    const rasterAt = async (id: string) =>
      rasterOf(clinicId, await inClinic(clinicId, (tx) => pictureRow(tx, id)), 0, 0);
    const [raster, earlier] = await Promise.all([
      rasterOf(clinicId, row, 0, 0),
      before ? rasterAt(before.pictureId) : undefined
    ]);
    // What is usual is known of sensors in the mouth only.
    const norm = slot && isInMouth(slot.projection) ? intraoralNorm : anyExposure;
    const side = slot && slotCrowns(slot);
    const kept = await inClinic(clinicId, (tx) => keptDoses(tx, dose.view, pictureId));
    const wish = {
      norm,
      denseBright: !isInverted(view.firstLook),
      earlier,
      earlierOfSameView: before?.sameSlot,
      exposureSaid: exposureSaidIn(readOrigin(row.facts)),
      crowns: side ? { side, seen: view.firstOrientation } : undefined,
      // Nobody lays letters of lead into a mouth.
      side:
        slot && !isInMouth(slot.projection)
          ? { side: slotSide(slot), seen: view.firstOrientation }
          : undefined,
      usual: usualDose(kept) ?? undefined
    };
    const seen = seenIn(raster, wish);
    dose.span = seen.doseSpan;
    found = seen.advice.map(({ kind: what, confidence, description, where }) => ({
      kind: what,
      confidence,
      description,
      where
    }));
  }
  await inClinic(clinicId, async (tx) => {
    await keepAdvice(tx, pictureId, found, dose);
    await announce(tx, { topic: 'picture', visitId, pictureId, view: null });
  });
  return found;
}
