import { edgeKeeping } from '../filters/edgeKeeping';
import { type Equaliser, equaliseFunction, equaliserOf } from '../filters/equalise';
import { gaussian, gaussianMargin } from '../filters/gaussian';
import { localContrast, localContrastMargin } from '../filters/localContrast';
import { median } from '../filters/median';
import { gammaFunction, mapped, tableFunction, windowFunction } from '../filters/tables';
import { unsharp, unsharpMargin } from '../filters/unsharp';
import type { Size } from '../orientation';
import { type Patch, type Window, contains, grown, wholeOf } from '../patch';
import { type Look, type LookStep, activeSteps } from './look';

/** A look with what its steps need to know of the whole picture, so that windows can be made one by one. */
export interface PreparedLook {
  steps: LookStep[];
  /** By place in the list. */
  equalisers: Map<number, Equaliser>;
}

/**
 * Patches as they are after some of a look's steps, kept from one making to the next: what comes before a step that is
 * being changed need not be made anew. One is kept for each place in the list, of one channel of one level of one picture.
 */
export class KeptSteps {
  private readonly kept = new Map<number, { key: string; patch: Patch }>();
  /** The same of what sharpening compares with, so that how much it does can be changed without blurring anew. */
  readonly blurs: KeptSteps | null;

  constructor(withBlurs = true) {
    this.blurs = withBlurs ? new KeptSteps(false) : null;
  }

  get(steps: readonly LookStep[], window: Window): Patch | null {
    const held = this.kept.get(steps.length);
    return held && held.key === JSON.stringify(steps) && contains(held.patch, window) ? held.patch : null;
  }
  put(steps: readonly LookStep[], patch: Patch): void {
    this.kept.set(steps.length, { key: JSON.stringify(steps), patch });
  }
}

/** Steps that cost more than keeping what they make. */
const costly = new Set<LookStep['kind']>(['local contrast', 'unsharp', 'smooth', 'median', 'keep edges']);

/** Where the samples of a window come from: {@link import('../patch').patchOf} of the original, in practice. */
export type Source = (window: Window) => Patch;

export function prepared(look: Look, source: Source, picture: Size): PreparedLook {
  const made: PreparedLook = { steps: activeSteps(look), equalisers: new Map() };
  made.steps.forEach((step, i) => {
    if (step.kind === 'equalise')
      made.equalisers.set(i, equaliserOf(after(made, i, source, wholeOf(picture), picture)));
  });
  return made;
}

/** A window of the picture through a look, 0 to 1 if one of its steps leads there. */
export const looked = (
  look: PreparedLook,
  source: Source,
  window: Window,
  picture: Size,
  kept?: KeptSteps
): Patch => after(look, look.steps.length, source, window, picture, kept);

/** Screen greys of a window through a look; what has no step to 0..1 is black or white. */
export function greys(
  look: PreparedLook,
  source: Source,
  window: Window,
  picture: Size,
  kept?: KeptSteps
): Uint8Array {
  const { data } = looked(look, source, window, picture, kept);
  const out = new Uint8Array(data.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.round(255 * Math.min(1, Math.max(0, data[i])));
  return out;
}

/** The patch may be larger than the window where a kept one is. */
function after(
  look: PreparedLook,
  count: number,
  source: Source,
  window: Window,
  picture: Size,
  kept?: KeptSteps
): Patch {
  if (count === 0) return source(window);
  const step = look.steps[count - 1];
  const last = count === look.steps.length;
  const steps = look.steps.slice(0, count);
  const held = last ? null : kept?.get(steps, window);
  if (held) return held;
  const wider = grown(window, marginOf(step, picture), picture);
  const before = after(look, count - 1, source, wider, picture, kept);
  const patch =
    step.kind === 'unsharp' && kept?.blurs
      ? unsharp(before, step, window, blurred(before, step, steps, window, kept.blurs))
      : applied(step, look.equalisers.get(count - 1), before, window);
  if (!last && costly.has(step.kind)) kept?.put(steps, patch);
  return patch;
}

/** What a sharpening step compares with; kept, as it hangs on what comes before and on how far it blurs alone. */
function blurred(
  before: Patch,
  { sigmaPx }: Extract<LookStep, { kind: 'unsharp' }>,
  steps: readonly LookStep[],
  window: Window,
  blurs: KeptSteps
): Patch {
  const of: LookStep[] = [...steps.slice(0, -1), { kind: 'smooth', sigmaPx }];
  const held = blurs.get(of, window);
  if (held) return held;
  const made = gaussian(before, sigmaPx, window);
  blurs.put(of, made);
  return made;
}

function marginOf(step: LookStep, picture: Size): number {
  switch (step.kind) {
    case 'smooth':
      return gaussianMargin(step.sigmaPx);
    case 'unsharp':
      return unsharpMargin(step);
    case 'median':
    case 'keep edges':
      return step.radiusPx;
    case 'local contrast':
      return localContrastMargin(picture, step);
    default:
      return 0;
  }
}

function applied(step: LookStep, equaliser: Equaliser | undefined, patch: Patch, window: Window): Patch {
  switch (step.kind) {
    case 'window':
      return mapped(patch, windowFunction(step.by, step.center, step.width), window);
    case 'table':
      return mapped(patch, tableFunction(step.first, step.entries, step.top), window);
    case 'gamma':
      return mapped(patch, gammaFunction(step.gamma), window);
    case 'invert':
      return mapped(patch, (value) => 1 - value, window);
    case 'equalise':
      if (!equaliser) throw new RangeError('equalising needs a look prepared for the picture');
      return mapped(patch, equaliseFunction(equaliser), window);
    case 'local contrast':
      return localContrast(patch, step, window);
    case 'unsharp':
      return unsharp(patch, step, window);
    case 'smooth':
      return gaussian(patch, step.sigmaPx, window);
    case 'median':
      return median(patch, step.radiusPx, window);
    case 'keep edges':
      return edgeKeeping(patch, step, window);
  }
}
