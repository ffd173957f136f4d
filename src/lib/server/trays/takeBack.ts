import { deadSeqs } from '../../core/tray/log';
import { type Tray, holdsTake, wellsAlong } from '../../core/tray/tray';
import { once } from '../acts/once';
import { type Tx, inClinic } from '../database/connection';
import { type Caller, demand } from '../people/caller';
import { may } from '../people/roles';
import { Problem } from '../problem';
import { actOnTrays } from './queries';
import { type LoggedEvent, type StoredTray, changeTray, heldTray } from './trays';

/** What came from outside stays: an exposure is never taken back, nor what somebody said of a device or a keeper. */
const never: readonly string[] = ['keeper-confirmed', 'confirmation-withdrawn', 'device-settled'];
/** Takes that were moved here from another tray carry the mark of that act. */
const canBeTakenBack = ({ event, act }: LoggedEvent) =>
  event.kind === 'take-added' ? act !== null : !never.includes(event.kind);

/** Which events one act is made of; those without a mark are acts by themselves. */
const actOf = (log: readonly LoggedEvent[], newest: LoggedEvent): LoggedEvent[] =>
  newest.act === null ? [newest] : log.filter((each) => each.act === newest.act);

/** The newest act of somebody on a tray that stands: to be taken back, or, where it was a taking-back, brought back. */
function newestOwn(
  { log }: StoredTray,
  userId: string,
  what: 'take back' | 'bring back'
): LoggedEvent[] | null {
  const dead = deadSeqs(log);
  const own = log.filter((each) => each.userId === userId && !dead.has(each.seq) && canBeTakenBack(each));
  const newest = own.findLast((each) => what === 'bring back' || each.event.kind !== 'taken-back');
  if (!newest || (what === 'bring back' && newest.event.kind !== 'taken-back')) return null;
  return actOf(log, newest);
}

/** Whether an act handed takes on to another tray from which they have gone on since. */
function goneOn(events: readonly LoggedEvent[], others: readonly StoredTray[]): boolean {
  return events.some(({ event }) => {
    if (event.kind !== 'take-handed-on') return false;
    const to = others.find((each) => each.trayId === event.toTray);
    return !to || !holdsTake(to.tray, event.takeId);
  });
}

/**
 * Takes back somebody's newest act on a tray, or brings back what was taken back last, once for its key. An act that
 * reached over several trays is taken back on all of them.
 */
export async function takeBackOnTray(
  caller: Caller,
  trayId: string,
  key: string,
  what: 'take back' | 'bring back'
): Promise<{ seq: number; done: boolean }> {
  await demand(caller, 'acquire', trayId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const tray = await heldTray(tx, trayId);
      const act = newestOwn(tray, caller.userId, what);
      if (!act) return { seq: tray.seq, done: false };
      const others = await othersOf(tx, tray, act);
      if (goneOn(act, others) || others.some((each) => goneOn(actOn(each, act), [tray, ...others]))) {
        throw new Problem(
          'moved-on',
          'What was moved then has been moved on since, so this can’t be taken back.',
          'Move it by hand.',
          409
        );
      }
      for (const other of others) await withdraw(tx, caller, other, actOn(other, act), key);
      const after = await withdraw(tx, caller, tray, act, key);
      return { seq: after.seq, done: true };
    })
  );
}

const actOn = ({ log }: StoredTray, act: readonly LoggedEvent[]): LoggedEvent[] =>
  log.filter((each) => each.act !== null && each.act === act[0].act);

async function othersOf(tx: Tx, tray: StoredTray, act: readonly LoggedEvent[]): Promise<StoredTray[]> {
  const mark = act[0].act;
  if (mark === null) return [];
  const ids = (await actOnTrays(tx, mark)).filter((id) => id !== tray.trayId);
  return Promise.all(ids.map((id) => heldTray(tx, id)));
}

/** Whether some keeper that was confirmed before is not any more. */
const losesConfirmed = (before: Tray, after: Tray): boolean =>
  wellsAlong(before).some(
    ({ slot, confirmed, keeper }) =>
      confirmed !== null &&
      (after.wells[slot.id]?.keeper !== keeper || after.wells[slot.id].confirmed === null)
  );

async function withdraw(
  tx: Tx,
  caller: Caller,
  tray: StoredTray,
  act: readonly LoggedEvent[],
  key: string
): Promise<StoredTray> {
  const event = { kind: 'taken-back' as const, seqs: act.map(({ seq }) => seq) };
  const after = await changeTray(tx, tray, [event], caller, key);
  if (losesConfirmed(tray.tray, after.tray) && !may(caller.role, 'confirm')) {
    throw new Problem(
      'confirmed-takes',
      'A clinician has confirmed what stands there now.',
      'Ask a clinician to take the confirmation off first.',
      403
    );
  }
  return after;
}
