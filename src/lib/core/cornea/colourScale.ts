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
const stops = ['#1b1437', '#2f3568', '#34607f', '#3f8a86', '#6fae83', '#b3c98a', '#ecdcae', '#fdf6ea'].map(
  toOklab
);

function coloured(count: number): string[] {
  return Array.from({ length: count }, (_, i) => {
    const along = (i / (count - 1)) * (stops.length - 1);
    const k = Math.min(stops.length - 2, Math.floor(along));
    return toHex(stops[k].map((value, c) => value + (stops[k + 1][c] - value) * (along - k)));
  });
}

/** Oklab (Ottosson, 2020): even steps look even. */
function toOklab(hex: string): number[] {
  const [r, g, b] = [1, 3, 5].map((i) => {
    const value = parseInt(hex.slice(i, i + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  });
  const l = Math.cbrt(0.4122214708 * r + 0.5363325363 * g + 0.0514459929 * b);
  const m = Math.cbrt(0.2119034982 * r + 0.6806995451 * g + 0.1073969566 * b);
  const s = Math.cbrt(0.0883024619 * r + 0.2817188376 * g + 0.6299787005 * b);
  return [
    0.2104542553 * l + 0.793617785 * m - 0.0040720468 * s,
    1.9779984951 * l - 2.428592205 * m + 0.4505937099 * s,
    0.0259040371 * l + 0.7827717662 * m - 0.808675766 * s
  ];
}

function toHex([lightness, a, b]: number[]): string {
  const l = (lightness + 0.3963377774 * a + 0.2158037573 * b) ** 3;
  const m = (lightness - 0.1055613458 * a - 0.0638541728 * b) ** 3;
  const s = (lightness - 0.0894841775 * a - 1.291485548 * b) ** 3;
  const linear = [
    4.0767416621 * l - 3.3077115913 * m + 0.2309699292 * s,
    -1.2684380046 * l + 2.6097574011 * m - 0.3413193965 * s,
    -0.0041960863 * l - 0.7034186147 * m + 1.707614701 * s
  ];
  const bytes = linear.map((value) => {
    const shown = value <= 0.0031308 ? 12.92 * value : 1.055 * value ** (1 / 2.4) - 0.055;
    return Math.round(255 * Math.min(1, Math.max(0, shown)));
  });
  return `#${bytes.map((byte) => byte.toString(16).padStart(2, '0')).join('')}`;
}

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
