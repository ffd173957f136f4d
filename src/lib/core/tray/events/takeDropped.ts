import { z } from 'zod';
import { takenOut, withStates } from '../takes';
import { holdsTake } from '../tray';
import { trayEventKind } from './eventKind';

/** A still that nobody wants: it stands for nothing any more, and can be brought back. Exposures are never dropped. */
export const takeDropped = trayEventKind({
  kind: 'take-dropped',
  version: 1,
  schema: z.strictObject({ takeId: z.string().min(1).max(60) }),
  upcasters: {},
  apply: (tray, { takeId }) => {
    if (!holdsTake(tray, takeId) || tray.dropped.includes(takeId)) return tray;
    const without = takenOut(tray, takeId);
    const next = { ...without, dropped: [...without.dropped, takeId] };
    return next.present === null ? withStates(next) : next;
  }
});
