import { medianOf } from '../../measurement/fit/linear';
import { valueAt } from '../../raster/geometry/sampling';
import type { Patch } from '../../raster/patch';
import { type Axis, on } from './axis';

export interface LineShape {
  /** How long most lines are, as a share of the spacing: as far as they stand out of what is halfway to their neighbours. */
  lengthShare: number;
  /** Root mean square of how far places of a line are off its middle, as a share of the spacing. */
  bendShare: number;
  /** How thick what they stand on is, as a share of the spacing; 0 where they stand on nothing. */
  spineShare: number;
}

/** So many lines, evenly among all, tell of the rest. */
const mostAsked = 12;
/** A line has ended where it stands out by less than this share of what it does in its middle. */
const ended = 0.4;
const mostLong = 3;
/** What lines stand on is looked for so many spacings to either side of their middle. */
const spineReach = 1.8;
/** A line's top is looked for so far to either side of its place. */
const besideShare = 0.3;

/**
 * What a ruler's lines are like, followed across from where they were found: lines of rulers are long and straight,
 * threads of screws stand out of a shank by a little, links of chains are round.
 * @param axis where line 0 would be, and the way from line to line
 */
export function lineShape(
  patch: Patch,
  axis: Axis,
  { spacing, indices }: { spacing: number; indices: readonly number[] },
  sign: number
): LineShape {
  const stride = Math.max(0.5, spacing / 16);
  const count = Math.max(5, Math.ceil((2 * besideShare * spacing) / 0.5));
  const grey = (along: number, across: number) => {
    const { x, y } = on(axis, along, across);
    return sign * valueAt(patch, x, y);
  };
  /** Where it is highest near a line's place, and how far over halfway to its neighbours. */
  const topAt = (place: number, across: number) => {
    let top = -Infinity;
    let at = 0;
    for (let i = 0; i < count; i++) {
      const off = (i / (count - 1) - 0.5) * 2 * besideShare * spacing;
      const value = grey(place + off, across);
      if (value > top) [top, at] = [value, off];
    }
    const between = (grey(place - spacing / 2, across) + grey(place + spacing / 2, across)) / 2;
    return { at, rise: top - between };
  };
  const lengths: number[] = [];
  const bends: number[] = [];
  const spines: number[] = [];
  const asked = Math.min(mostAsked, indices.length);
  for (let k = 0; k < asked; k++) {
    const line = indices[Math.floor((k * indices.length) / asked)];
    const middle = topAt(line * spacing, 0);
    const places = [middle.at];
    let length = 0;
    for (const side of [-1, 1]) {
      let missed = 0;
      for (let i = 1; i * stride < mostLong * spacing && missed < 2; i++) {
        const { at, rise } = topAt(line * spacing, side * i * stride);
        if (rise < ended * middle.rise) {
          missed++;
          continue;
        }
        length += stride * (1 + missed);
        missed = 0;
        places.push(at);
      }
    }
    lengths.push(length / spacing);
    const mean = places.reduce((a, b) => a + b, 0) / places.length;
    const square = places.reduce((sum, at) => sum + (at - mean) ** 2, 0) / places.length;
    bends.push(Math.sqrt(square) / spacing);
    const onLine = grey(line * spacing + middle.at, 0);
    const between = Array.from({ length: 2 * Math.ceil((spineReach * spacing) / stride) + 1 }, (_, i) =>
      grey((line + 0.5) * spacing, i * stride - spineReach * spacing)
    );
    spines.push((longestOver(between, (onLine + Math.min(...between)) / 2) * stride) / spacing);
  }
  return { lengthShare: medianOf(lengths), bendShare: medianOf(bends), spineShare: medianOf(spines) };
}

/** The longest run of values over a level. */
function longestOver(values: readonly number[], level: number): number {
  let [run, longest] = [0, 0];
  for (const value of values) {
    run = value > level ? run + 1 : 0;
    longest = Math.max(longest, run);
  }
  return longest;
}
