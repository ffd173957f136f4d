import { deviceFor } from '../../core/devices/choose';
import { type Asked, likelihoodOf, namedByReason } from '../../core/tray/likely';
import { fourBitewings } from '../../core/tray/shipped/fourBitewings';
import type { By } from '../audit/write';
import type { Room } from '../clinics/roomModel';
import type { Tx } from '../database/connection';
import { arm } from '../devices/arming';
import { habitOf, habitualPattern } from '../devices/habits';
import { devicesAround } from '../devices/queries';
import type { Caller } from '../people/caller';
import { may } from '../people/roles';
import { type PatternChoice, patternChoices } from '../trays/patterns';
import { type Actor, type StoredTray, addToTray } from '../trays/trays';

/** What visits of a trade begin with where neither their reason, nor the room, nor the operator's habit says more. */
const fallback: Partial<Record<Room['trade'], string>> = { teeth: fourBitewings.pattern.ref.id };

/**
 * What a new visit begins with: the pattern that its reason names, else the room's usual one, else what the operator
 * laid here the last time.
 */
async function firstPattern(
  tx: Tx,
  room: Room,
  asked: Asked,
  userId: string
): Promise<PatternChoice | undefined> {
  const choices = await patternChoices(tx, room.trade, userId);
  const habit = await habitualPattern(tx, userId, room.roomId);
  // What was laid for one animal says little of what another one wants.
  const ids = [room.usualPattern, ...(asked.patient.kind === 'person' ? [habit, fallback[room.trade]] : [])];
  const known = ids.flatMap((id) => choices.find((each) => each.pattern.id === id) ?? []);
  return namedByReason(choices, asked) ?? known.find((each) => likelihoodOf(each.name, asked) !== 'foreign');
}

/** Lays the first pattern of a visit and, where the room wants it so, gets its device ready. */
export async function beginTray(
  tx: Tx,
  tray: StoredTray,
  { room, asked, ready }: { room: Room; asked: Asked; ready: boolean },
  caller: Caller & Actor & By
): Promise<void> {
  const first = await firstPattern(tx, room, asked, caller.userId);
  if (!first) return;
  const { pattern, route } = first;
  const laid = await addToTray(tx, tray, [{ kind: 'tray-laid', pattern, route }], caller);
  if (ready && room.opensArmed && may(caller.role, 'acquire')) await armFirst(tx, laid, room, caller.userId);
}

/** Only a device that nobody waits for, and only where it is clear which. */
async function armFirst(
  tx: Tx,
  { trayId, tray }: StoredTray,
  { roomId }: Room,
  userId: string
): Promise<void> {
  const { present } = tray;
  if (present === null) return;
  const habit = await habitOf(tx, userId, roomId);
  const deviceId = deviceFor(tray.wells[present].slot, await devicesAround(tx, trayId), {
    trayId,
    settled: tray.settled,
    habit
  });
  if (deviceId) await arm(tx, deviceId, { trayId, slotId: present, by: userId });
}
