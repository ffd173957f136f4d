import { z } from 'zod';
import { slotId } from '../slot';
import { putIn, withStates, takenOut } from '../takes';
import { holdsTake, wellOf } from '../tray';
import { trayEventKind } from './eventKind';

/** To another slot, or (null) to the bench. Nothing is lost from the slot it goes to. */
export const takeMoved = trayEventKind({
  kind: 'take-moved',
  version: 1,
  schema: z.strictObject({ takeId: z.string().min(1).max(60), slotId: slotId.nullable() }),
  upcasters: {},
  apply: (tray, { takeId, slotId: to }) => {
    const from = wellOf(tray, takeId);
    if (!holdsTake(tray, takeId)) return tray;
    if (from ? from.slot.id === to : to === null && tray.bench.includes(takeId)) return tray;
    if (to !== null && !tray.wells[to]) return tray;
    const without = takenOut(tray, takeId);
    const next = to === null ? { ...without, bench: [...without.bench, takeId] } : putIn(without, takeId, to);
    const presentFilled = next.present !== null && next.present === to && !next.anchored;
    return presentFilled || next.present === null ? withStates(next) : next;
  }
});
