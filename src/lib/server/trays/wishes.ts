import { z } from 'zod';
import type { TrayEvent } from '../../core/tray/events/all';
import { orderSchema, refSchema } from '../../core/tray/pattern';
import { slotId, slotSchema } from '../../core/tray/slot';
import { hasConfirmed, holdsTake, wellOf } from '../../core/tray/tray';
import type { TrayView } from '../../core/visit/visitView';
import { once } from '../acts/once';
import { type Tx, inClinic } from '../database/connection';
import { rememberPattern } from '../devices/habits';
import { type Caller, demand } from '../people/caller';
import { may, roleWords } from '../people/roles';
import { pictureRow } from '../pictures/views';
import { Problem, notFound } from '../problem';
import { demandPattern } from './patterns';
import { takeBackOnTray } from './takeBack';
import { type StoredTray, addToTray, changeTray, heldTray, makeTray, trayView, traysOfVisits } from './trays';

const takeId = z.uuid();

/** What a page may ask of a tray. Takes come in through exposures and files only, confirmation carries the caller. */
export const trayWish = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('tray-laid'), pattern: refSchema, route: refSchema }),
  z.strictObject({ kind: z.literal('slot-chosen'), slotId }),
  z.strictObject({ kind: z.literal('retake-asked'), slotId }),
  z.strictObject({ kind: z.literal('anchored'), slotId }),
  z.strictObject({ kind: z.literal('anchor-lifted') }),
  /** Also from another tray of the same visit. */
  z.strictObject({ kind: z.literal('take-moved'), takeId, slotId: slotId.nullable() }),
  /** A still, never an exposure. */
  z.strictObject({ kind: z.literal('take-dropped'), takeId }),
  z.strictObject({ kind: z.literal('slots-swapped'), slotId, otherSlotId: slotId }),
  z.strictObject({ kind: z.literal('keeper-chosen'), slotId, takeId }),
  z.strictObject({ kind: z.literal('keeper-confirmed'), slotId, takeId }),
  z.strictObject({ kind: z.literal('confirmation-withdrawn'), slotId }),
  z.strictObject({ kind: z.literal('slot-added'), slot: slotSchema }),
  z.strictObject({ kind: z.literal('slot-dropped'), slotId }),
  z.strictObject({ kind: z.literal('route-laid'), order: orderSchema }),
  z.strictObject({
    kind: z.literal('tray-filled'),
    moves: z.array(z.strictObject({ takeId, slotId })).min(1).max(200)
  }),
  z.strictObject({ kind: z.literal('take-back') }),
  z.strictObject({ kind: z.literal('bring-back') })
]);
export type TrayWish = z.infer<typeof trayWish>;

const confirms = (wish: TrayWish) =>
  wish.kind === 'keeper-confirmed' || wish.kind === 'confirmation-withdrawn';

type Undoing = Extract<TrayWish, { kind: 'take-back' | 'bring-back' }>;

function eventFor(wish: Exclude<TrayWish, Undoing>, caller: Caller): TrayEvent {
  return wish.kind === 'keeper-confirmed' ? { ...wish, by: caller.userId, name: null } : wish;
}

/** Does what a page asks of a tray, once for its key. */
export async function wishOfTray(
  caller: Caller,
  trayId: string,
  key: string,
  wish: TrayWish
): Promise<{ seq: number }> {
  if (wish.kind === 'take-back') return takeBackOnTray(caller, trayId, key, 'take back');
  if (wish.kind === 'bring-back') return takeBackOnTray(caller, trayId, key, 'bring back');
  await demand(caller, confirms(wish) ? 'confirm' : 'acquire', trayId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const before = await heldTray(tx, trayId);
      if (wish.kind === 'tray-laid') {
        mayLay(caller, before);
        await demandPattern(tx, wish);
        await rememberLaid(tx, caller, before.visitId, wish.pattern.id);
      }
      if (wish.kind === 'slot-dropped') mayDrop(caller, before, wish.slotId);
      if (wish.kind === 'take-dropped') await mayDropTake(tx, caller, before, wish.takeId);
      if (wish.kind === 'take-moved') await fetchFromOtherTray(tx, before, wish.takeId, caller, key);
      const held = await renewed(tx, before, wish);
      const after = await changeTray(tx, held, [eventFor(wish, caller)], caller, key);
      return { seq: after.seq };
    })
  );
}

/** A take that lies in another tray of the visit is put on this one's bench first, in the same act. */
async function fetchFromOtherTray(
  tx: Tx,
  to: StoredTray,
  takeId: string,
  caller: Caller,
  act: string
): Promise<void> {
  if (holdsTake(to.tray, takeId)) return;
  const others = await traysOfVisits(tx, [to.visitId]);
  const from = others.find((each) => holdsTake(each.tray, takeId));
  if (!from) throw notFound('This take');
  await addToTray(
    tx,
    await heldTray(tx, from.trayId),
    [{ kind: 'take-handed-on', takeId, toTray: to.trayId }],
    caller,
    { act }
  );
  await addToTray(tx, to, [{ kind: 'take-added', takeId, slotId: null, exposed: false }], caller, { act });
}

const renewed = (tx: Tx, before: StoredTray, wish: TrayWish): Promise<StoredTray> | StoredTray =>
  wish.kind === 'take-moved' ? heldTray(tx, before.trayId) : before;

/** What somebody lays in a room they will find there the next time; one that was made for a visit is not remembered. */
async function rememberLaid(tx: Tx, caller: Caller, visitId: string, patternId: string): Promise<void> {
  const row = await tx.one<{ room_id: string }>(
    `select v.room_id from visit v where v.visit_id = $1
       and exists (select 1 from pattern p where p.pattern_id = $2 and p.visit_id is null)`,
    visitId,
    patternId
  );
  if (row) await rememberPattern(tx, caller.userId, row.room_id, patternId);
}

/** Laying a pattern takes every confirmation off, so it takes somebody who may confirm once there are some. */
function mayLay(caller: Caller, { tray }: StoredTray): void {
  if (!hasConfirmed(tray) || may(caller.role, 'confirm')) return;
  throw new Problem(
    'confirmed-takes',
    `This tray holds confirmed takes, and another pattern would take the confirmations off; you are signed in as ${roleWords[caller.role]}.`,
    'Lay the pattern as another tray, or ask a clinician.',
    403
  );
}

/** What a patient was irradiated for is laid on the bench at most; what somebody confirmed, its clinician alone drops. */
async function mayDropTake(tx: Tx, caller: Caller, { tray, log }: StoredTray, takeId: string): Promise<void> {
  const { source } = await pictureRow(tx, takeId);
  const exposed = log.some(
    ({ event }) => event.kind === 'take-added' && event.takeId === takeId && event.exposed
  );
  if (source === 'device' || exposed) {
    throw new Problem(
      'exposure',
      'This is an exposure, and those are never dropped.',
      'Lay it on the bench.',
      409
    );
  }
  const well = wellOf(tray, takeId);
  if (well?.keeper === takeId) mayDrop(caller, { tray }, well.slot.id);
}

function mayDrop(caller: Caller, { tray }: Pick<StoredTray, 'tray'>, dropped: string): void {
  if (!tray.wells[dropped]?.confirmed || may(caller.role, 'confirm')) return;
  throw new Problem(
    'confirmed-takes',
    'The keeper of this slot is confirmed, and dropping the slot would take the confirmation off.',
    'Ask a clinician, or leave the slot.',
    403
  );
}

export const newTrayWish = z.strictObject({ pattern: refSchema, route: refSchema });

/** Another tray for a visit, with a pattern laid. */
export async function anotherTray(
  caller: Caller,
  visitId: string,
  key: string,
  wish: z.infer<typeof newTrayWish>
): Promise<{ trayId: string }> {
  await demand(caller, 'acquire', visitId);
  return inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      const [known] = await traysOfVisits(tx, [visitId]);
      if (!known) throw notFound('This visit');
      await demandPattern(tx, wish);
      await rememberLaid(tx, caller, visitId, wish.pattern.id);
      const made = await makeTray(tx, visitId);
      await changeTray(tx, made, [{ kind: 'tray-laid', ...wish }], caller);
      return { trayId: made.trayId };
    })
  );
}

/** The trays of a visit as they stand. */
export async function traysSeen(caller: Caller, visitId: string): Promise<TrayView[]> {
  await demand(caller, 'view charts', visitId);
  if (!z.uuid().safeParse(visitId).success) throw notFound('This visit');
  return inClinic(caller.clinicId, async (tx) => {
    const trays = await traysOfVisits(tx, [visitId]);
    if (trays.length === 0) throw notFound('This visit');
    return trays.map(trayView);
  });
}
