import { z } from 'zod';
import { type Slot, slotSchema } from '../slot';
import { trayEventKind } from './eventKind';

/** One more slot, asked for on the spot: it is the next, and the route ends with it. */
export const slotAdded = trayEventKind({
  kind: 'slot-added',
  version: 1,
  schema: z.strictObject({ slot: slotSchema as z.ZodType<Slot> }),
  upcasters: {},
  apply: (tray, { slot }) =>
    tray.wells[slot.id]
      ? tray
      : {
          ...tray,
          wells: {
            ...tray.wells,
            [slot.id]: { slot, takes: [], keeper: null, confirmed: null, added: true }
          },
          route: [...tray.route, slot.id],
          present: slot.id,
          resume: null,
          retakes: [],
          anchored: false
        }
});
