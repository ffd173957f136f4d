import { z } from 'zod';
import { slotId } from '../slot';
import { trayEventKind } from './eventKind';

/** One slot again, after which the route goes on where it was. */
export const retakeAsked = trayEventKind({
  kind: 'retake-asked',
  version: 1,
  schema: z.strictObject({ slotId }),
  upcasters: {},
  apply: (tray, event) => {
    if (!tray.wells[event.slotId] || tray.retakes.includes(event.slotId)) return tray;
    const retakes = [...tray.retakes, event.slotId];
    const resume = tray.retakes.length === 0 ? tray.present : tray.resume;
    return { ...tray, retakes, resume, present: retakes[0], anchored: false };
  }
});
