import type { TrayEvent } from './events';
import { afterTake, nextEmpty } from './route';
import { type Pattern, type Tray, type Well, emptyTray, holdsTake, wellOf } from './tray';

/**
 * One event applied to a tray, as a new tray. An event that means nothing here (an unknown slot or take, one that is
 * already so) changes nothing and gives back the same object, so replaying twice is harmless.
 */
export function reduce(tray: Tray, event: TrayEvent): Tray {
  switch (event.kind) {
    case 'tray-laid':
      return laid(tray, event.pattern);
    case 'slot-chosen':
      if (!tray.wells[event.slotId]) return tray;
      return { ...tray, present: event.slotId, resume: null, retakes: [], anchored: false };
    case 'retake-asked':
      return retakeAsked(tray, event.slotId);
    case 'anchored':
      if (!tray.wells[event.slotId]) return tray;
      return { ...tray, present: event.slotId, anchored: true, retakes: [], resume: null };
    case 'anchor-lifted':
      return tray.anchored ? { ...tray, anchored: false, present: nextEmpty(tray, tray.present) } : tray;
    case 'take-added':
      return added(tray, event.takeId, event.slotId, event.exposed);
    case 'take-moved':
      return moved(tray, event.takeId, event.slotId);
    case 'slots-swapped':
      return swapped(tray, event.slotId, event.otherSlotId);
    case 'keeper-chosen':
      return changeWell(tray, event.slotId, (well) =>
        well.takes.includes(event.takeId) && well.keeper !== event.takeId
          ? { ...well, keeper: event.takeId, confirmedBy: null }
          : well
      );
    case 'keeper-confirmed':
      return changeWell(tray, event.slotId, (well) =>
        well.keeper === event.takeId && well.confirmedBy !== event.by
          ? { ...well, confirmedBy: event.by }
          : well
      );
    case 'confirmation-withdrawn':
      return changeWell(tray, event.slotId, (well) =>
        well.confirmedBy === null ? well : { ...well, confirmedBy: null }
      );
  }
}

export function fold(events: Iterable<TrayEvent>, start: Tray = emptyTray): Tray {
  let tray = start;
  for (const event of events) tray = reduce(tray, event);
  return tray;
}

function laid(tray: Tray, pattern: Pattern): Tray {
  const wells: Record<string, Well> = {};
  for (const slot of pattern.slots) wells[slot.id] = { slot, takes: [], keeper: null, confirmedBy: null };
  const known = pattern.route.filter((id) => wells[id]);
  const route = [...known, ...pattern.slots.map((slot) => slot.id).filter((id) => !known.includes(id))];
  const kept = [...tray.bench, ...Object.values(tray.wells).flatMap((well) => well.takes)];
  return { ...emptyTray, pattern: pattern.name, wells, route, present: route[0] ?? null, bench: kept };
}

function retakeAsked(tray: Tray, slotId: string): Tray {
  if (!tray.wells[slotId] || tray.retakes.includes(slotId)) return tray;
  const retakes = [...tray.retakes, slotId];
  const resume = tray.retakes.length === 0 ? tray.present : tray.resume;
  return { ...tray, retakes, resume, present: retakes[0], anchored: false };
}

function added(tray: Tray, takeId: string, slotId: string | null, exposed: boolean): Tray {
  if (holdsTake(tray, takeId)) return tray;
  if (slotId === null || !tray.wells[slotId]) return { ...tray, bench: [...tray.bench, takeId] };
  const filled = putIn(tray, takeId, slotId);
  const concernsPresent = slotId === filled.present || filled.retakes.includes(slotId);
  if (concernsPresent && (exposed || !filled.anchored)) return { ...filled, ...afterTake(filled, slotId) };
  return filled;
}

/** The newest take becomes the keeper: it was made because the one before would not do. */
function putIn(tray: Tray, takeId: string, slotId: string): Tray {
  return changeWell(tray, slotId, (well) => ({
    ...well,
    takes: [...well.takes, takeId],
    keeper: takeId,
    confirmedBy: null
  }));
}

function takenOut(tray: Tray, takeId: string): Tray {
  const well = wellOf(tray, takeId);
  if (!well) return { ...tray, bench: tray.bench.filter((id) => id !== takeId) };
  return changeWell(tray, well.slot.id, (from) => {
    const takes = from.takes.filter((id) => id !== takeId);
    if (from.keeper !== takeId) return { ...from, takes };
    return { ...from, takes, keeper: takes.at(-1) ?? null, confirmedBy: null };
  });
}

function moved(tray: Tray, takeId: string, slotId: string | null): Tray {
  const from = wellOf(tray, takeId);
  if (!from && !tray.bench.includes(takeId)) return tray;
  if ((from?.slot.id ?? null) === slotId) return tray;
  if (slotId !== null && !tray.wells[slotId]) return tray;
  const without = takenOut(tray, takeId);
  const next =
    slotId === null ? { ...without, bench: [...without.bench, takeId] } : putIn(without, takeId, slotId);
  const presentFilled = next.present !== null && next.present === slotId && !next.anchored;
  const nothingPresent = next.present === null;
  if (presentFilled || nothingPresent) return { ...next, ...restated(next) };
  return next;
}

function swapped(tray: Tray, slotId: string, otherSlotId: string): Tray {
  const one = tray.wells[slotId];
  const other = tray.wells[otherSlotId];
  if (!one || !other || slotId === otherSlotId) return tray;
  const wells = {
    ...tray.wells,
    [slotId]: { ...other, slot: one.slot },
    [otherSlotId]: { ...one, slot: other.slot }
  };
  const next = { ...tray, wells };
  return { ...next, ...restated(next) };
}

/** After pictures were moved by hand the route stays where it is if that slot is still empty. */
function restated(tray: Tray): Pick<Tray, 'present'> {
  const { present } = tray;
  if (present !== null && (tray.anchored || tray.retakes.includes(present))) return { present };
  if (present !== null && tray.wells[present].takes.length === 0) return { present };
  return { present: nextEmpty(tray, present) };
}

function changeWell(tray: Tray, slotId: string, change: (well: Well) => Well): Tray {
  const well = tray.wells[slotId];
  if (!well) return tray;
  const next = change(well);
  return next === well ? tray : { ...tray, wells: { ...tray.wells, [slotId]: next } };
}
