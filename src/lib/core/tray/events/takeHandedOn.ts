import { z } from 'zod';
import { withStates, takenOut } from '../takes';
import { holdsTake } from '../tray';
import { trayEventKind } from './eventKind';

/** A take leaves this tray for another tray of the same visit, which has it added in the same act. */
export const takeHandedOn = trayEventKind({
  kind: 'take-handed-on',
  version: 1,
  schema: z.strictObject({ takeId: z.string().min(1).max(60), toTray: z.uuid() }),
  upcasters: {},
  apply: (tray, { takeId }) => {
    if (!holdsTake(tray, takeId)) return tray;
    const next = takenOut(tray, takeId);
    return next.present === null ? withStates(next) : next;
  }
});
