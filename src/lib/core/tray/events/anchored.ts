import { z } from 'zod';
import { slotId } from '../slot';
import { trayEventKind } from './eventKind';

/** The route stays at a slot: takes gather there until the anchor is lifted. */
export const anchored = trayEventKind({
  kind: 'anchored',
  version: 1,
  schema: z.strictObject({ slotId }),
  upcasters: {},
  apply: (tray, event) =>
    tray.wells[event.slotId]
      ? { ...tray, present: event.slotId, anchored: true, retakes: [], resume: null }
      : tray
});
