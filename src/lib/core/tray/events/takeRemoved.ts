import { z } from 'zod';
import { takenOut, withStates } from '../takes';
import { holdsTake } from '../tray';
import { trayEventKind } from './eventKind';

/** A take leaves this tray and its chart, for the bin or for the sorting desk. It can be returned. */
export const takeRemoved = trayEventKind({
  kind: 'take-removed',
  version: 1,
  schema: z.strictObject({ takeId: z.string().min(1).max(60) }),
  upcasters: {},
  apply: (tray, { takeId }) => {
    if (!holdsTake(tray, takeId)) return tray;
    const next = takenOut(tray, takeId);
    return next.present === null ? withStates(next) : next;
  }
});
