import { z } from 'zod';
import { slotId } from '../slot';
import { withStates } from '../takes';
import { trayEventKind } from './eventKind';

/** Two slots change pictures. Who confirmed one of them confirmed it for the place it was in, so both confirmations fall. */
export const slotsSwapped = trayEventKind({
  kind: 'slots-swapped',
  version: 1,
  schema: z.strictObject({ slotId, otherSlotId: slotId }),
  upcasters: {},
  apply: (tray, { slotId: oneId, otherSlotId: otherId }) => {
    const one = tray.wells[oneId];
    const other = tray.wells[otherId];
    if (!one || !other || oneId === otherId) return tray;
    if (one.takes.length === 0 && other.takes.length === 0) return tray;
    return withStates({
      ...tray,
      wells: {
        ...tray.wells,
        [oneId]: { ...one, takes: other.takes, keeper: other.keeper, confirmed: null },
        [otherId]: { ...other, takes: one.takes, keeper: one.keeper, confirmed: null }
      }
    });
  }
});
