import { z } from 'zod';
import { fullOrder, refSchema } from '../pattern';
import { shippedPatternNamed } from '../shipped/shipped';
import { type Well, emptyTray } from '../tray';
import { trayEventKind } from './eventKind';

/** The first version held the whole pattern; the name tells which of the product's own it was. */
const first = z.object({ pattern: z.object({ name: z.string() }) });

/** A pattern is laid along a route. Takes that were in wells go to the bench: the new wells are others. */
export const trayLaid = trayEventKind({
  kind: 'tray-laid',
  version: 2,
  schema: z.strictObject({ pattern: refSchema, route: refSchema }),
  upcasters: {
    1: (body) => {
      const { pattern, route } = shippedPatternNamed(first.parse(body).pattern.name);
      return { pattern: pattern.ref, route: route.ref };
    }
  },
  apply: (tray, event, book) => {
    const pattern = book.pattern(event.pattern);
    const wells: Record<string, Well> = {};
    for (const slot of pattern.slots) wells[slot.id] = { slot, takes: [], keeper: null, confirmed: null };
    const route = fullOrder(pattern, book.route(event.route).order);
    const kept = Object.values(tray.wells).flatMap((well) => well.takes);
    return {
      ...emptyTray,
      settled: tray.settled,
      laid: { name: pattern.name, pattern: event.pattern, route: event.route },
      wells,
      route,
      present: route[0] ?? null,
      bench: [...tray.bench, ...kept],
      dropped: tray.dropped
    };
  }
});
