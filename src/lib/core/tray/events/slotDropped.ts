import { z } from 'zod';
import { nextEmpty } from '../route';
import { slotId } from '../slot';
import { trayEventKind } from './eventKind';

/** A slot is not wanted after all. What was taken for it goes to the bench. */
export const slotDropped = trayEventKind({
  kind: 'slot-dropped',
  version: 1,
  schema: z.strictObject({ slotId }),
  upcasters: {},
  apply: (tray, { slotId: dropped }) => {
    if (!tray.wells[dropped]) return tray;
    const { [dropped]: gone, ...wells } = tray.wells;
    const place = tray.route.indexOf(dropped);
    const route = tray.route.filter((id) => id !== dropped);
    const without = {
      ...tray,
      wells,
      route,
      bench: [...tray.bench, ...gone.takes],
      retakes: tray.retakes.filter((id) => id !== dropped),
      resume: tray.resume === dropped ? null : tray.resume
    };
    if (tray.present !== dropped) return without;
    const present = without.retakes[0] ?? nextEmpty(without, route[place - 1] ?? null);
    return { ...without, present, anchored: false };
  }
});
