import type { Tray } from './tray';

/**
 * The next empty slot after one on the route, going round to what was passed over; null when none is empty.
 * The slot itself comes last, so a picture taken away from it is asked for again.
 */
export function nextEmpty(tray: Tray, afterSlotId: string | null): string | null {
  const { route, wells } = tray;
  const start = afterSlotId === null ? -1 : route.indexOf(afterSlotId);
  for (let step = 1; step <= route.length; step++) {
    const id = route[(start + step + route.length) % route.length];
    if (wells[id].takes.length === 0) return id;
  }
  return null;
}

/** Where the tray stands once the slot it was on has its take. */
export function afterTake(tray: Tray, slotId: string): Pick<Tray, 'present' | 'resume' | 'retakes'> {
  const retakes = tray.retakes.filter((id) => id !== slotId);
  if (tray.anchored) return { present: slotId, resume: tray.resume, retakes };
  if (retakes.length > 0) return { present: retakes[0], resume: tray.resume, retakes };
  const wasRetake = retakes.length !== tray.retakes.length;
  if (wasRetake) {
    const goesBack = tray.resume !== null && tray.wells[tray.resume].takes.length === 0;
    return {
      present: goesBack ? tray.resume : nextEmpty(tray, tray.resume ?? slotId),
      resume: null,
      retakes
    };
  }
  return { present: nextEmpty(tray, slotId), resume: null, retakes };
}

/** A line in which one goes by so many places earlier (below 0) or later, as far as the line reaches. */
export function shifted<T>(line: readonly T[], at: number, by: number): T[] {
  const rest = line.filter((_, i) => i !== at);
  const to = Math.max(0, Math.min(rest.length, at + by));
  return [...rest.slice(0, to), line[at], ...rest.slice(to)];
}
