import { z } from 'zod';
import { afterTake } from '../route';
import { slotId } from '../slot';
import { putIn } from '../takes';
import { holdsTake } from '../tray';
import { trayEventKind } from './eventKind';

/** A take arrived, for a slot or (null) for the bench. Only an exposure moves the route on from an anchor. */
export const takeAdded = trayEventKind({
  kind: 'take-added',
  version: 1,
  schema: z.strictObject({
    takeId: z.string().min(1).max(60),
    slotId: slotId.nullable(),
    exposed: z.boolean()
  }),
  upcasters: {},
  apply: (tray, { takeId, slotId: slot, exposed }) => {
    if (holdsTake(tray, takeId)) return tray;
    if (slot === null || !tray.wells[slot]) return { ...tray, bench: [...tray.bench, takeId] };
    const filled = putIn(tray, takeId, slot);
    const concernsPresent = slot === filled.present || filled.retakes.includes(slot);
    if (concernsPresent && (exposed || !filled.anchored)) return { ...filled, ...afterTake(filled, slot) };
    return filled;
  }
});
