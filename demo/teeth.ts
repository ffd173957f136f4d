import type { SensorFault } from '../src/lib/core/phantom/teeth/faultNames';
import type { MouthWish } from '../src/lib/core/phantom/teeth/dentition';
import type { TrayEvent } from '../src/lib/core/tray/events';
import type { Pattern } from '../src/lib/core/tray/tray';
import { inClinic } from '../src/lib/server/database/connection';
import type { Caller } from '../src/lib/server/people/caller';
import { pictureOfKey, storePicture } from '../src/lib/server/pictures/store';
import { addToTray, changeTray, trayOfVisit } from '../src/lib/server/trays/trays';
import { type DemoVisit, newPicture } from './picture';
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

/**
 * Lays the visit's tray, unless it lies already, and begins to render what is still missing of its exposures. What is
 * given back takes them when they are ready.
 */
export async function beginSeries(
  caller: Caller,
  pool: RenderPool,
  visit: DemoVisit & { seed: number },
  wish: { pattern: Pattern; shots: Shot[]; anchorAt?: string; confirmedBy: string | null }
): Promise<() => Promise<void>> {
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
          kind: 'tooth',
          mouth: shot.mouth,
          slot: slots.find((slot) => slot.id === shot.slotId)!,
          seed: visit.seed + i,
          fault: shot.fault
        })
  );
  return async () => {
    for (const [i, shot] of wish.shots.entries()) {
      const made = await rendered[i];
      if (!made) continue;
      await inClinic(caller.clinicId, async (tx) => {
        const stored = await trayOfVisit(tx, visit.visitId, true);
        const takeId = await storePicture(
          tx,
          keyOf(i),
          newPicture(visit, made, {
            from: 'Sensor 1',
            model: 'Simulated sensor',
            name: '',
            secondsLater: i * secondsApart
          })
        );
        const { slotId } = shot;
        const events: TrayEvent[] = [{ kind: 'take-added', takeId, slotId, exposed: true }];
        if (shot.fault) events.push({ kind: 'retake-asked', slotId });
        else if (wish.confirmedBy)
          events.push({ kind: 'keeper-confirmed', slotId, takeId, by: wish.confirmedBy });
        await addToTray(tx, stored, events, 'Sensor 1');
      });
    }
  };
}
