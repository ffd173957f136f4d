import { z } from 'zod';
import { slotId } from '../slot';
import { putIn, takenOut, withStates } from '../takes';
import { trayEventKind } from './eventKind';

/** Takes from the bench, each into its slot, in one act. */
export const trayFilled = trayEventKind({
  kind: 'tray-filled',
  version: 1,
  schema: z.strictObject({
    moves: z.array(z.strictObject({ takeId: z.string().min(1).max(60), slotId })).max(200)
  }),
  upcasters: {},
  apply: (tray, { moves }) => {
    const next = moves.reduce(
      (at, { takeId, slotId: to }) =>
        at.bench.includes(takeId) && at.wells[to] ? putIn(takenOut(at, takeId), takeId, to) : at,
      tray
    );
    return next === tray ? tray : withStates(next);
  }
});
