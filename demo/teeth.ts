import type { SensorFault } from '../src/lib/core/phantom/teeth/faultNames';
import type { MouthWish } from '../src/lib/core/phantom/teeth/dentition';
import { sensorPitchMm } from '../src/lib/core/phantom/teeth/views';
import { bytesOf } from '../src/lib/core/raster/raster';
import { firstLook } from '../src/lib/core/raster/statistics';
import type { TrayEvent } from '../src/lib/core/tray/events';
import type { Pattern } from '../src/lib/core/tray/tray';
import { inClinic } from '../src/lib/server/database/connection';
import type { Caller } from '../src/lib/server/people/caller';
import { samplesMediaType } from '../src/lib/server/pictures/facts';
import { pictureOfKey, storePicture } from '../src/lib/server/pictures/store';
import { addToTray, changeTray, trayOfVisit } from '../src/lib/server/trays/trays';
import type { RenderPool } from '../standins/render/pool';

/** One exposure of a visit in the teeth room, in the order it was made. */
export interface Shot {
  slotId: string;
  mouth: MouthWish;
  fault: SensorFault | null;
}

/** What is exposed at a visit, and on which tray. */
export interface Series {
  pattern: Pattern;
  shots: Shot[];
  anchorAt?: string;
}

const secondsApart = 25;

/** What a visit's exposures are: the pattern's route, some of it again, or one slot again and again. */
export function shotsOf(
  mouth: MouthWish,
  pattern: Pattern,
  retakes: readonly { slotId: string; fault: SensorFault }[] = []
): Shot[] {
  return pattern.route.flatMap((slotId): Shot[] => {
    const failed = retakes.find((each) => each.slotId === slotId);
    const good: Shot = { slotId, mouth, fault: null };
    return failed ? [{ slotId, mouth, fault: failed.fault }, good] : [good];
  });
}

/** Lays the visit's tray, unless it lies already, and takes what is still missing of its exposures. */
export async function takeSeries(
  caller: Caller,
  pool: RenderPool,
  visit: { visitId: string; patientId: string; at: Date; seed: number },
  wish: { pattern: Pattern; shots: Shot[]; anchorAt?: string; confirmedBy: string | null }
): Promise<void> {
  const keyOf = (i: number) => `demo ${visit.visitId} ${i}`;
  await inClinic(caller.clinicId, async (tx) => {
    const { tray } = await trayOfVisit(tx, visit.visitId, true);
    const events: TrayEvent[] = [];
    if (tray.pattern !== wish.pattern.name) events.push({ kind: 'tray-laid', pattern: wish.pattern });
    if (wish.anchorAt) events.push({ kind: 'anchored', slotId: wish.anchorAt });
    await changeTray(tx, visit.visitId, events, caller.name);
  });
  const known = await inClinic(caller.clinicId, async (tx) => {
    const found = [];
    for (const i of wish.shots.keys()) found.push(await pictureOfKey(tx, keyOf(i)));
    return found;
  });
  const { slots } = wish.pattern;
  const rendered = wish.shots.map((shot, i) =>
    known[i]
      ? null
      : pool.render({
          mouth: shot.mouth,
          slot: slots.find((slot) => slot.id === shot.slotId)!,
          seed: visit.seed + i,
          fault: shot.fault
        })
  );
  for (const [i, shot] of wish.shots.entries()) {
    const raster = await rendered[i];
    if (!raster) continue;
    await inClinic(caller.clinicId, async (tx) => {
      const stored = await trayOfVisit(tx, visit.visitId, true);
      const takeId = await storePicture(tx, keyOf(i), {
        patientId: visit.patientId,
        visitId: visit.visitId,
        original: bytesOf(raster),
        mediaType: samplesMediaType,
        fileName: '',
        source: 'device',
        raster,
        takenAt: new Date(visit.at.getTime() + i * secondsApart * 1000),
        facts: {
          version: 1,
          from: 'Sensor 1',
          manufacturer: 'Yonder Tray stand-ins',
          model: 'Simulated sensor',
          imagerPixelSpacing: [sensorPitchMm, sensorPitchMm],
          kv: 65,
          exposureMas: 0.7,
          firstLook: firstLook(raster),
          fileAttributes: [],
          remarks: []
        }
      });
      const { slotId } = shot;
      const events: TrayEvent[] = [{ kind: 'take-added', takeId, slotId, exposed: true }];
      if (shot.fault) events.push({ kind: 'retake-asked', slotId });
      else if (wish.confirmedBy)
        events.push({ kind: 'keeper-confirmed', slotId, takeId, by: wish.confirmedBy });
      await addToTray(tx, stored, events, 'Sensor 1');
    });
  }
}
