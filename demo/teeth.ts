import type { SensorFault } from '../src/lib/core/phantom/teeth/faultNames';
import type { MouthWish } from '../src/lib/core/phantom/teeth/dentition';
import type { GradeReason } from '../src/lib/core/picture/gradeReasons';
import { type Graded, gradeLayer } from '../src/lib/core/picture/layers/grade/grade';
import type { TrayEvent } from '../src/lib/core/tray/events/all';
import { sameRef } from '../src/lib/core/tray/pattern';
import type { ShippedPattern } from '../src/lib/core/tray/shipped/shippedPattern';
import { inClinic } from '../src/lib/server/database/connection';
import type { Caller } from '../src/lib/server/people/caller';
import { newId } from '../src/lib/server/ids';
import { type NewStep, appendSteps, pictureOfKey } from '../src/lib/server/pictures/queries';
import { noteTold } from '../src/lib/server/pictures/told';
import { addToTray, changeTray, heldFirstTray } from '../src/lib/server/trays/trays';
import { keepPattern } from './patterns';
import { type DemoVisit, storeRendered } from './picture';
import type { RenderPool } from '../standins/render/pool';

/** One exposure of a visit in the teeth room, in the order it was made. */
export interface Shot {
  slotId: string;
  mouth: MouthWish;
  fault: SensorFault | null;
}

/** What is exposed at a visit, and on which tray. */
export interface Series {
  pattern: ShippedPattern;
  shots: Shot[];
  anchorAt?: string;
}

const secondsApart = 25;

/** What the assistant said of a take that had to be taken again. */
const reasonOf: Record<SensorFault, GradeReason> = {
  under: 'under-exposed',
  over: 'over-exposed',
  'cut off': 'part cut off',
  moved: 'motion',
  nothing: 'under-exposed',
  clipped: 'over-exposed',
  'dropped rows': 'artefact',
  turned: 'turned or mirrored',
  mirrored: 'turned or mirrored'
};

/** What a visit's exposures are: the pattern's route, some of it again, or one slot again and again. */
export function shotsOf(
  mouth: MouthWish,
  pattern: ShippedPattern,
  retakes: readonly { slotId: string; fault: SensorFault }[] = []
): Shot[] {
  return pattern.route.order.flatMap((slotId): Shot[] => {
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
  wish: Series & { confirmedBy: string | null }
): Promise<() => Promise<void>> {
  const keyOf = (i: number) => `demo ${visit.visitId} ${i}`;
  await inClinic(caller.clinicId, async (tx) => {
    await keepPattern(tx, wish.pattern);
    const stored = await heldFirstTray(tx, visit.visitId);
    const { pattern, route } = wish.pattern;
    const events: TrayEvent[] = [];
    if (!sameRef(stored.tray.laid?.pattern ?? null, pattern.ref))
      events.push({ kind: 'tray-laid', pattern: pattern.ref, route: route.ref });
    if (wish.anchorAt) events.push({ kind: 'anchored', slotId: wish.anchorAt });
    await changeTray(tx, stored, events, caller);
  });
  const known = await inClinic(caller.clinicId, async (tx) => {
    const found = [];
    for (const i of wish.shots.keys()) found.push(await pictureOfKey(tx, keyOf(i)));
    return found;
  });
  const { slots } = wish.pattern.pattern;
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
        const stored = await heldFirstTray(tx, visit.visitId);
        const takeId = await storeRendered(tx, keyOf(i), visit, made, {
          from: 'Sensor 1',
          model: 'Simulated sensor',
          name: '',
          kind: 'radiograph',
          by: caller.name,
          secondsLater: i * secondsApart
        });
        const { slotId } = shot;
        const events: TrayEvent[] = [{ kind: 'take-added', takeId, slotId, exposed: true }];
        if (shot.fault) events.push({ kind: 'retake-asked', slotId });
        else if (wish.confirmedBy)
          events.push({ kind: 'keeper-confirmed', slotId, takeId, by: wish.confirmedBy, name: null });
        await addToTray(tx, stored, events, { name: 'Sensor 1', userId: null });
        if (shot.fault) {
          const steps: NewStep[] = [
            {
              act: newId(),
              by: caller.userId,
              kind: 'grade',
              item: null,
              version: gradeLayer.version,
              body: { grade: 'not diagnostic', reasons: [reasonOf[shot.fault]] } satisfies Graded,
              undoes: null
            }
          ];
          await appendSteps(tx, takeId, steps);
          await noteTold(tx, takeId, steps);
        }
      });
    }
  };
}
