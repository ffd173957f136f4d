import type { EdgeKeeping } from '../filters/edgeKeeping';
import type { LocalContrast } from '../filters/localContrast';
import type { WindowFunction } from '../filters/tables';
import type { Unsharp } from '../filters/unsharp';

/** One adjustment. Until a `window`, `table` or `equalise` step values are the original's; after it they are 0 to 1. */
export type LookStep = Adjustment & {
  /** Switched off: it stays in its place and does nothing. */
  off?: true;
};

export type Adjustment =
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
  /** Only so many steps from the first on count, where somebody has gone back; all of them without it. */
  knot?: number;
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

/** The steps that count and are not switched off, in their order. */
export const activeSteps = ({ steps, knot }: Look): LookStep[] =>
  steps.slice(0, knot).filter(({ off }) => !off);

const leads = new Set<LookStep['kind']>(['window', 'table', 'equalise']);

/** The look with all values a picture can have from black to white, where none of its steps says which are. */
export function withRange(look: Look, { bitsStored, offset }: { bitsStored: number; offset: number }): Look {
  const steps = activeSteps(look);
  if (steps.some(({ kind }) => leads.has(kind))) return look;
  const width = 2 ** bitsStored;
  return { steps: [{ kind: 'window', center: width / 2 + offset, width, by: 'linear' }, ...steps] };
}

/** The window of a look, or null where something else maps its values. */
export function windowOf(look: Look): (LookWindow & { by: WindowFunction }) | null {
  const step = activeSteps(look).find((each) => each.kind === 'window');
  return step ? { center: step.center, width: step.width, by: step.by } : null;
}

/** The look with another window in the place of its first; one in front where it had none. */
export function withWindow(look: Look, { center, width }: LookWindow): Look {
  const at = look.steps.slice(0, look.knot).findIndex((step) => step.kind === 'window' && !step.off);
  if (at < 0) return inserted(look, 0, { kind: 'window', center, width, by: 'linear' });
  return { ...look, steps: look.steps.map((step, i) => (i === at ? { ...step, center, width } : step)) };
}

/** Whether dark and light change places on the whole. */
export const isInverted = (look: Look): boolean =>
  activeSteps(look).filter((step) => step.kind === 'invert').length % 2 === 1;

export function inverted(look: Look): Look {
  const rest = look.steps.reduce(
    (left, step) => (step.kind === 'invert' ? dropped(left, left.steps.indexOf(step)) : left),
    look
  );
  return isInverted(look) ? rest : inserted(rest, rest.knot ?? rest.steps.length, { kind: 'invert' });
}

/** The look with a step more at a place; one that is put where steps count does count. */
export function inserted(look: Look, at: number, step: LookStep): Look {
  const { knot } = look;
  const steps = [...look.steps.slice(0, at), step, ...look.steps.slice(at)];
  return knot === undefined ? { steps } : { steps, knot: at <= knot ? knot + 1 : knot };
}

export function dropped(look: Look, at: number): Look {
  const { knot } = look;
  const steps = look.steps.filter((_, i) => i !== at);
  return knot === undefined ? { steps } : { steps, knot: at < knot ? knot - 1 : knot };
}

export const replaced = (look: Look, at: number, step: LookStep): Look => ({
  ...look,
  steps: look.steps.map((each, i) => (i === at ? step : each))
});

/**
 * A step put before its neighbour (-1), or behind it (1). What changes places with a window goes on meaning the same:
 * before it values are the picture's own, behind it 0 to 1.
 */
export function moved(look: Look, at: number, by: -1 | 1): Look {
  const to = at + by;
  if (to < 0 || to >= look.steps.length) return look;
  const steps = [...look.steps];
  const [first, second] = [steps[Math.min(at, to)], steps[Math.max(at, to)]];
  const across = (step: LookStep, window: LookStep, behind: boolean) =>
    window.kind === 'window' ? inValuesOf(step, window, behind) : step;
  steps[Math.min(at, to)] = across(second, first, false);
  steps[Math.max(at, to)] = across(first, second, true);
  return { ...look, steps };
}

/** A step's values told behind a window instead of before it, or the other way round. */
function inValuesOf(step: LookStep, { center, width }: LookWindow, behind: boolean): LookStep {
  const by = behind ? 1 / width : width;
  const least = center - width / 2;
  const value = (of: number) => (behind ? (of - least) / width : least + of * width);
  switch (step.kind) {
    case 'local contrast':
      return { ...step, low: value(step.low), high: value(step.high) };
    case 'unsharp':
      return { ...step, threshold: step.threshold * by };
    case 'keep edges':
      return { ...step, range: step.range * by };
    default:
      return step;
  }
}

/** Whether the values that a step works on are the picture's own: nothing before it leads to 0..1. */
export const onOwnValues = (look: Look, at: number): boolean =>
  !activeSteps({ steps: look.steps.slice(0, at) }).some(({ kind }) => leads.has(kind));

export function switched(look: Look, at: number): Look {
  const { off, ...step } = look.steps[at];
  return replaced(look, at, (off ? step : { ...step, off: true }) as LookStep);
}

/** Goes back to the first so many steps, or forward again to all. */
export const pulledTo = ({ steps }: Look, knot: number): Look =>
  knot >= steps.length ? { steps } : { steps, knot: Math.max(0, knot) };
