import type { SeededRandom } from '../random';
import type { TrayEvent } from './events/all';
import { fourBitewings } from './shipped/fourBitewings';
import { twoBitewings } from './shipped/bitewings';
import type { Tray } from './tray';

const own = ['own-1', 'own-2'];
const slots = [...fourBitewings.route.order, ...twoBitewings.route.order, ...own];
const clinician = '018f0000-0000-7000-8000-0000000000cc';
const devices = ['018f0000-0000-7000-8000-0000000000d1', '018f0000-0000-7000-8000-0000000000d2'];

/** Anything that could happen to a tray next; takes are numbered through `made`. */
export function anyEvent({ uniform: random }: SeededRandom, tray: Tray, made: string[]): TrayEvent {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const slotId = pick(slots);
  const takeId = made.length > 0 ? pick(made) : 'none';
  const confirm = (of: string, take: string): TrayEvent => ({
    kind: 'keeper-confirmed',
    slotId: of,
    takeId: take,
    by: clinician,
    name: null
  });
  const lay = ({ pattern, route }: typeof fourBitewings): TrayEvent => ({
    kind: 'tray-laid',
    pattern: pattern.ref,
    route: route.ref
  });
  const kinds: (() => TrayEvent)[] = [
    () => lay(random() < 0.5 ? fourBitewings : twoBitewings),
    () => ({ kind: 'slot-chosen', slotId }),
    () => ({ kind: 'retake-asked', slotId }),
    () => ({ kind: 'anchored', slotId }),
    () => ({ kind: 'anchor-lifted' }),
    () => ({ kind: 'take-moved', takeId, slotId: pick([slotId, null]) }),
    () => ({ kind: 'take-dropped', takeId }),
    () => ({ kind: 'slots-swapped', slotId, otherSlotId: pick(slots) }),
    () => ({ kind: 'keeper-chosen', slotId, takeId }),
    () => confirm(slotId, takeId),
    () => confirm(slotId, tray.wells[slotId]?.keeper ?? takeId),
    () => ({ kind: 'confirmation-withdrawn', slotId }),
    () => ({ kind: 'slot-added', slot: { ...fourBitewings.pattern.slots[0], id: pick(own), name: 'Own' } }),
    () => ({ kind: 'slot-dropped', slotId }),
    () => ({ kind: 'route-laid', order: [...tray.route].sort(() => random() - 0.5) }),
    () => ({
      kind: 'tray-filled',
      moves: tray.bench.slice(0, 2).map((id) => ({ takeId: id, slotId: pick(slots) }))
    }),
    () => ({ kind: 'device-settled', use: 'in the mouth', deviceId: pick(devices) }),
    () => {
      const id = random() < 0.1 ? takeId : `r${made.length}`;
      if (!made.includes(id)) made.push(id);
      return {
        kind: 'take-added',
        takeId: id,
        slotId: pick([tray.present, slotId, null]),
        exposed: random() < 0.8
      };
    }
  ];
  return random() < 0.35 ? kinds.at(-1)!() : pick(kinds)();
}

/** The takes that a tray holds, wherever they lie. */
export const takesOf = (tray: Tray): string[] =>
  [...tray.bench, ...tray.dropped, ...Object.values(tray.wells).flatMap((well) => well.takes)].sort();
