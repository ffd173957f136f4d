import type { Slot } from '../tray/slot';
import { type DeviceUse, comesBefore } from './deviceKind';
import { fitsSlot, useOf } from './fits';

/** A device as far as choosing among those of a room goes. */
export interface Choosable {
  deviceId: string;
  kind: string;
  absent: boolean;
  /** The tray that it waits for, if any. */
  trayId: string | null;
}

/** Which device was settled on for each use. */
export type Settled = Partial<Record<DeviceUse, string>>;

/** What is known beforehand of which device is meant, the surest first. */
export interface Knowledge {
  trayId: string;
  /** For this series, by whoever takes it. */
  settled: Settled;
  /** What the operator took in this room the last time. */
  habit?: Settled;
}

/**
 * The device that takes a slot, where that is clear without asking: the one settled on for the series; one that waits for
 * this tray already; the one of habit; the only one that fits. Null when somebody has to say. One that waits for another
 * tray is never taken away from it. A plate scanner, whose pictures come later, never stands before a sensor, and a
 * folder never before either.
 */
export function deviceFor(
  slot: Pick<Slot, 'projection' | 'device'>,
  devices: readonly Choosable[],
  { trayId, settled, habit = {} }: Knowledge
): string | null {
  const fitting = devices.filter((each) => fitsSlot(each.kind, slot));
  const free = fitting.filter((each) => each.trayId === trayId || (each.trayId === null && !each.absent));
  const use = useOf(slot.projection);
  const named = (deviceId: string | undefined, among: readonly Choosable[]) =>
    among.find((each) => each.deviceId === deviceId)?.deviceId;
  const only = (among: readonly Choosable[]) => (among.length === 1 ? among[0].deviceId : undefined);
  return (
    named(settled[use], fitting) ??
    free.find((each) => each.trayId === trayId)?.deviceId ??
    named(habit[use], free) ??
    only(soonest(free, fitting)) ??
    null
  );
}

/** Those of the free ones whose pictures come soonest; none where others that are sooner are only busy elsewhere. */
function soonest(free: readonly Choosable[], fitting: readonly Choosable[]): Choosable[] {
  const first = Math.min(...fitting.filter(({ absent }) => !absent).map(({ kind }) => comesBefore(kind)));
  return free.filter(({ kind }) => comesBefore(kind) === first);
}
