import { z } from 'zod';
import { slotId } from '../slot';
import { trayEventKind } from './eventKind';

/** The operator goes to a slot; the route goes on from there. */
export const slotChosen = trayEventKind({
  kind: 'slot-chosen',
  version: 1,
  schema: z.strictObject({ slotId }),
  upcasters: {},
  apply: (tray, event) =>
    tray.wells[event.slotId]
      ? { ...tray, present: event.slotId, resume: null, retakes: [], anchored: false }
      : tray
});
