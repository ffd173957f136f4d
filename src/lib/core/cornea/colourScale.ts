import { formatHex, interpolate, samples } from 'culori';
import type { CorneaMap } from './corneaMap';

/** One step of a scale: values from `from` up to `to` have its colour. The first and the last have no outer end. */
export interface ScaleStep {
  from: number;
  to: number;
  colour: string;
}

export interface ColourScale {
  /** Absolute: the same for every eye. Relative: about this eye's middle value. */
  kind: 'absolute' | 'relative';
  unit: CorneaMap['unit'];
  stepSize: number;
  steps: ScaleStep[];
}

/**
 * From ink through slate and lichen to straw and bone: each step lighter than the last, to every kind of colour sight,
 * and in grey print. Steep and high is light.
 */
const stops = ['#1b1437', '#2f3568', '#34607f', '#3f8a86', '#6fae83', '#b3c98a', '#ecdcae', '#fdf6ea'];

/** In Oklab even steps look even. */
const along = interpolate(stops, 'oklab');

const coloured = (count: number): string[] => samples(count).map((at) => formatHex(along(at)));

const absolutes = {
  D: { middle: 43.5, stepSize: 1.5, count: 17 },
  µm: { middle: 0, stepSize: 5, count: 17 }
} as const;

/** The same for every eye: powers from 30.75 to 56.25 dioptres by 1.5, heights from -42.5 to 42.5 micrometres by 5. */
export function absoluteScale(unit: CorneaMap['unit']): ColourScale {
  const { middle, stepSize, count } = absolutes[unit];
  return { kind: 'absolute', unit, stepSize, steps: stepsAbout(middle, stepSize, count) };
}

const stepSizes = { D: [0.25, 0.5, 1, 1.5, 2, 3, 5], µm: [0.5, 1, 2, 5, 10, 20, 50, 100] } as const;
const relativeCount = 15;

/**
 * About the middle value of one map, in the smallest step of a fixed list whose fifteen steps hold 96 of 100 of its
 * values. @throws RangeError for a map without values
 */
export function relativeScale({ unit, values }: CorneaMap): ColourScale {
  const sorted = values.filter(Number.isFinite).sort();
  if (sorted.length === 0) throw new RangeError('nothing was seen of this cornea: there is no scale for it');
  const part = (share: number) => sorted[Math.round((sorted.length - 1) * share)];
  const reach = Math.max(part(0.98) - part(0.5), part(0.5) - part(0.02));
  const sizes = stepSizes[unit];
  const stepSize = sizes.find((size) => reach <= (size * relativeCount) / 2) ?? sizes[sizes.length - 1];
  const middle = Math.round(part(0.5) / stepSize) * stepSize;
  return { kind: 'relative', unit, stepSize, steps: stepsAbout(middle, stepSize, relativeCount) };
}

function stepsAbout(middle: number, stepSize: number, count: number): ScaleStep[] {
  const from = middle - (count * stepSize) / 2;
  return coloured(count).map((colour, i) => ({
    from: i === 0 ? -Infinity : from + i * stepSize,
    to: i === count - 1 ? Infinity : from + (i + 1) * stepSize,
    colour
  }));
}

/** The colour of a value; null where there is none. */
export function colourOf({ steps }: ColourScale, value: number): string | null {
  return steps.find(({ from, to }) => value >= from && value < to)?.colour ?? null;
}
