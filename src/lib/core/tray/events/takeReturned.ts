import { z } from 'zod';
import { slotId } from '../slot';
import { changeWell, putIn, withStates } from '../takes';
import { holdsTake } from '../tray';
import { trayEventKind } from './eventKind';

/**
 * A take that was removed is here again: in its slot, or (null, or where that slot is gone) on the bench. What stands for
 * the slot by now goes on standing for it, confirmed or not.
 */
export const takeReturned = trayEventKind({
  kind: 'take-returned',
  version: 1,
  schema: z.strictObject({ takeId: z.string().min(1).max(60), slotId: slotId.nullable() }),
  upcasters: {},
  apply: (tray, { takeId, slotId: slot }) => {
    if (holdsTake(tray, takeId)) return tray;
    const well = slot === null ? undefined : tray.wells[slot];
    if (slot === null || !well) return { ...tray, bench: [...tray.bench, takeId] };
    if (well.keeper === null) return withStates(putIn(tray, takeId, slot));
    return changeWell(tray, slot, (of) => ({ ...of, takes: [takeId, ...of.takes] }));
  }
});
