import { type NumberedEvent, liveEvents } from './log';
import type { PatternBook } from './pattern';
import { reduce } from './reduce';
import { emptyTray } from './tray';

/**
 * The takes that were taken again: another exposure came for their slot and took their place. Takes that gather in an
 * anchored slot follow one another on purpose, and none of them is a retake.
 */
export function retakenTakes(log: readonly NumberedEvent[], book: PatternBook): Set<string> {
  const retaken = new Set<string>();
  let tray = emptyTray;
  for (const event of liveEvents(log)) {
    if (event.kind === 'take-added' && event.exposed && event.slotId !== null) {
      const before = tray.wells[event.slotId]?.keeper ?? null;
      const gathers = tray.anchored && tray.present === event.slotId;
      if (before !== null && before !== event.takeId && !gathers) retaken.add(before);
    }
    tray = reduce(tray, event, book);
  }
  return retaken;
}
