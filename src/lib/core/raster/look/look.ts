import type { EdgeKeeping } from '../filters/edgeKeeping';
import type { LocalContrast } from '../filters/localContrast';
import type { WindowFunction } from '../filters/tables';
import type { Unsharp } from '../filters/unsharp';

/** One adjustment. Until a `window`, `table` or `equalise` step values are the original's; after it they are 0 to 1. */
export type LookStep =
  | { kind: 'window'; center: number; width: number; by: WindowFunction }
  | { kind: 'table'; first: number; entries: number[]; top: number }
  | { kind: 'gamma'; gamma: number }
  | { kind: 'invert' }
  | { kind: 'equalise' }
  | ({ kind: 'local contrast' } & LocalContrast)
  | ({ kind: 'unsharp' } & Unsharp)
  | { kind: 'smooth'; sigmaPx: number }
  | { kind: 'median'; radiusPx: 1 | 2 }
  | ({ kind: 'keep edges' } & EdgeKeeping);

/**
 * The set of adjustments through which a picture is seen: an ordered list, in stored values, before any turning. What a
 * step does to a picture never changes: the same look gives the same pixels for ever, in the browser and on the server.
 */
export interface Look {
  steps: LookStep[];
}

export interface LookWindow {
  center: number;
  width: number;
}

/** One linear window, and perhaps an inversion: what most pictures open with. */
export function windowLook(window: LookWindow, inverted = false): Look {
  const { center, width } = window;
  return {
    steps: [
      { kind: 'window', center, width, by: 'linear' },
      ...(inverted ? [{ kind: 'invert' } as const] : [])
    ]
  };
}

/** The window of a look, or null where something else maps its values. */
export function windowOf(look: Look): (LookWindow & { by: WindowFunction }) | null {
  const step = look.steps.find((each) => each.kind === 'window');
  return step ? { center: step.center, width: step.width, by: step.by } : null;
}

/** The look with another window in the place of its first; one in front where it had none. */
export function withWindow(look: Look, { center, width }: LookWindow): Look {
  const at = look.steps.findIndex((step) => step.kind === 'window');
  if (at < 0) return { steps: [{ kind: 'window', center, width, by: 'linear' }, ...look.steps] };
  return { steps: look.steps.map((step, i) => (i === at ? { ...step, center, width } : step)) };
}

/** Whether dark and light change places on the whole. */
export const isInverted = (look: Look): boolean =>
  look.steps.filter((step) => step.kind === 'invert').length % 2 === 1;

export function inverted(look: Look): Look {
  const rest = look.steps.filter((step) => step.kind !== 'invert');
  return { steps: isInverted(look) ? rest : [...rest, { kind: 'invert' }] };
}
