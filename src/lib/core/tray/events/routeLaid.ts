import { z } from 'zod';
import { orderSchema } from '../pattern';
import { nextEmpty } from '../route';
import { trayEventKind } from './eventKind';

/** The tray as it is, takes and all, along another route. Slots that the route leaves out come at its end. */
export const routeLaid = trayEventKind({
  kind: 'route-laid',
  version: 1,
  schema: z.strictObject({ order: orderSchema }),
  upcasters: {},
  apply: (tray, { order }) => {
    const known = order.filter((id) => tray.wells[id]);
    const route = [...known, ...tray.route.filter((id) => !known.includes(id))];
    if (route.every((id, i) => id === tray.route[i])) return tray;
    const next = { ...tray, route };
    const untouched = route.every((id) => tray.wells[id].takes.length === 0);
    if (tray.anchored || tray.retakes.length > 0) return next;
    return { ...next, present: untouched ? (route[0] ?? null) : (tray.present ?? nextEmpty(next, null)) };
  }
});
