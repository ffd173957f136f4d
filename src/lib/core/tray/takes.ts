import { nextEmpty } from './route';
import { type Tray, type Well, wellOf } from './tray';

export function changeWell(tray: Tray, slotId: string, change: (well: Well) => Well): Tray {
  const well = tray.wells[slotId];
  if (!well) return tray;
  const next = change(well);
  return next === well ? tray : { ...tray, wells: { ...tray.wells, [slotId]: next } };
}

/** The newest take becomes the keeper: it was made because the one before would not do. */
export function putIn(tray: Tray, takeId: string, slotId: string): Tray {
  return changeWell(tray, slotId, (well) => ({
    ...well,
    takes: [...well.takes, takeId],
    keeper: takeId,
    confirmed: null
  }));
}

/** A take out of its well, off the bench, or from among the dropped. The newest that stays becomes the keeper in its place. */
export function takenOut(tray: Tray, takeId: string): Tray {
  const well = wellOf(tray, takeId);
  const others = (ids: readonly string[]) => ids.filter((id) => id !== takeId);
  if (!well) return { ...tray, bench: others(tray.bench), dropped: others(tray.dropped) };
  return changeWell(tray, well.slot.id, (from) => {
    const takes = from.takes.filter((id) => id !== takeId);
    if (from.keeper !== takeId) return { ...from, takes };
    return { ...from, takes, keeper: takes.at(-1) ?? null, confirmed: null };
  });
}

/** After pictures were moved by hand the route stays where it is if that slot is still empty. */
export function withStates(tray: Tray): Tray {
  const { present } = tray;
  if (present !== null && (tray.anchored || tray.retakes.includes(present))) return tray;
  if (present !== null && tray.wells[present].takes.length === 0) return tray;
  return { ...tray, present: nextEmpty(tray, present) };
}
