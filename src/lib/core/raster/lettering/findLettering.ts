import { type Area, around, overlap } from '../area';
import type { Raster } from '../raster';
import { type Line, featuresOf, linesOf } from './lines';
import { MarkGrid, type Sides } from './markGrid';
import { type Plane, halved, planeOf } from './plane';
import { marksOf, transposed } from './strokes';
import { type FoundLine, alikeTimes, gapBetween, timesAsHigh, togetherOdds } from './together';
import { lineOdds } from './writing';

/** A place where writing seems to stand, in whole pixels of the picture. */
export interface LetteringBox extends Area {
  /** Whether it reads along the rows, or upwards or downwards. */
  reads: 'along' | 'up or down';
  /** 0.5 and more: how sure it is that this is writing. */
  confidence: number;
}

/** A line of writing is looked for at so many levels, each half as fine as the one before. */
const levels = 5;

/** Log odds from which a line is looked at together with the others. */
const regardedOdds = -3;
/** Log odds of all together from which a line counts by itself, and from which it counts beside one that does. */
const sureOdds = 0;
const besideOdds = -3;
/** Two marks side by side are as often one letter in pieces: they count only beside others. */
const leastMarks = 3;
/** How far from a line the next one may stand, in heights of its letters. */
const besideHeights = 3;
/** A line is no thicker than so many of its letters: what leans further is none. */
const thickest = 3;

interface Candidate extends FoundLine {
  /** Round the line with what belongs to it. */
  box: () => Box;
}
type Box = Omit<LetteringBox, 'confidence'>;
type Judged = Candidate & { together: number };

/**
 * Where writing seems to stand: burned in by a device or a program, level or turned by a quarter, brighter or darker
 * than what it lies over or coloured, letters from about 6 px up. Single letters are none: a lead letter is no name.
 * @param frames one picture, or frames of one loop: what stays the same in all of them is told from what moves. What
 * changes from frame to frame, a clock say, is found in frames that are given by themselves
 * @throws RangeError when there is no frame, or their sizes differ
 */
export function findLettering(frames: readonly Raster[]): LetteringBox[] {
  if (frames.length === 0) throw new RangeError('at least one frame is needed');
  const [{ width, height, channels }] = frames;
  if (frames.some((each) => each.width !== width || each.height !== height || each.channels !== channels))
    throw new RangeError('the frames of a loop must have one size');
  const all = candidatesOf(frames);
  const odds = togetherOdds(all);
  const judged = all.map((each, i): Judged => ({ ...each, together: odds[i] }));
  const byItself = ({ together, marks }: Judged) => together >= sureOdds && marks >= leastMarks;
  const sure = judged.filter(byItself);
  const beside = judged.filter(
    (each) => !byItself(each) && each.together >= besideOdds && sure.some((line) => standsBeside(each, line))
  );
  return merged([...sure, ...beside]);
}

function candidatesOf(frames: readonly Raster[]): Candidate[] {
  const found: Candidate[] = [];
  planesOf(frames).forEach((plane, shade) => {
    let level = plane;
    for (let k = 0; k < levels && Math.min(level.width, level.height) >= 16; k++) {
      const upright = marksOf(level);
      for (const turned of [false, true]) {
        const marks = turned ? upright.map(transposed) : upright;
        const grid = new MarkGrid(marks);
        for (const line of linesOf(marks)) {
          const features = featuresOf(line, k);
          const odds = lineOdds(features);
          if (odds < regardedOdds) continue;
          found.push({
            ...areaOf(inPicture(line, 2 ** k, turned)),
            reads: turned ? 'up or down' : 'along',
            shade,
            letterPx: line.height * 2 ** k,
            marks: line.marks.length,
            features,
            odds,
            box: () => boxOf(line, grid, 2 ** k, turned, plane)
          });
        }
      }
      level = halved(level);
    }
  });
  return found;
}

/** Sides of a line of a level in pixels of the picture, as it lies there; right and bottom are beyond it. */
function inPicture({ left, top, right, bottom }: Sides, scale: number, turned: boolean, pad = 0): Sides {
  const along = [(left - pad) * scale, (right + 1 + pad) * scale];
  const across = [(top - pad) * scale, (bottom + 1 + pad) * scale];
  const [xs, ys] = turned ? [across, along] : [along, across];
  return { left: xs[0], right: xs[1], top: ys[0], bottom: ys[1] };
}

const areaOf = ({ left, top, right, bottom }: Sides): Area => ({
  left,
  top,
  width: right - left,
  height: bottom - top
});

function standsBeside(line: Judged, sure: Judged): boolean {
  if (line.reads !== sure.reads) return false;
  const thickness = line.reads === 'along' ? line.height : line.width;
  if (thickness > thickest * line.letterPx) return false;
  return timesAsHigh(line, sure) <= alikeTimes && gapBetween(line, sure) < besideHeights * sure.letterPx;
}

/** Boxes that cover much of one another become one; the surest come first. */
function merged(all: readonly Judged[]): LetteringBox[] {
  const out: LetteringBox[] = [];
  for (const each of [...all].sort((a, b) => b.together - a.together)) {
    const box = { ...each.box(), confidence: Math.max(0.5, 1 / (1 + Math.exp(-each.together))) };
    const same = out.find((each) => each.reads === box.reads && overlap(each, box) > 0.4);
    if (same) Object.assign(same, around(same, box));
    else out.push(box);
  }
  return out;
}

/**
 * Bright writing stays the same from frame to frame while what it lies over changes: the darkest of each pixel shows it.
 * In a picture with colours the writing may be all that has one.
 */
function planesOf(frames: readonly Raster[]): Plane[] {
  const [{ width, height, channels }] = frames;
  const plane = () => new Float32Array(width * height).fill(Infinity);
  const [bright, dark, coloured] = [plane(), plane(), channels > 1 ? plane() : null];
  for (const { data } of frames)
    for (let i = 0; i < bright.length; i++) {
      let [high, low] = [-Infinity, Infinity];
      for (let c = 0; c < channels; c++) {
        const value = data[i * channels + c];
        if (value > high) high = value;
        if (value < low) low = value;
      }
      if (high < bright[i]) bright[i] = high;
      if (-low < dark[i]) dark[i] = -low;
      if (coloured && high - low < coloured[i]) coloured[i] = high - low;
    }
  return [bright, dark, ...(coloured ? [coloured] : [])].map((data) => planeOf(data, width, height));
}

/** Round a line with the small marks that belong to it: dots, strokes, single letters a word further. */
function boxOf(line: Line, marks: MarkGrid, scale: number, turned: boolean, full: Plane): Box {
  let { left, top, right, bottom } = line;
  const reach = 1.4 * line.height;
  for (let grew = true; grew;) {
    grew = false;
    const near = {
      left: left - reach,
      right: right + reach,
      top: top - 0.3 * line.height,
      bottom: bottom + 0.3 * line.height
    };
    for (const mark of marks.near(near)) {
      if (mark.left > right + reach || mark.right < left - reach) continue;
      if (mark.top > bottom + 0.3 * line.height || mark.bottom < top - 0.3 * line.height) continue;
      if (mark.bottom - mark.top + 1 > 2 * line.height) continue;
      if (mark.left >= left && mark.right <= right && mark.top >= top && mark.bottom <= bottom) continue;
      if (mark.ink < 0.5 * line.marks[0].ink) continue;
      const high = Math.max(bottom, mark.bottom) - Math.min(top, mark.top);
      if (high > 2.2 * line.height + Math.abs(bottom - top - line.height)) continue;
      [left, right] = [Math.min(left, mark.left), Math.max(right, mark.right)];
      [top, bottom] = [Math.min(top, mark.top), Math.max(bottom, mark.bottom)];
      grew = true;
    }
  }
  const pad = Math.max(1, 0.2 * line.height);
  const sides = inPicture({ left, top, right, bottom }, scale, turned, pad);
  const [x, y] = [Math.max(0, Math.floor(sides.left)), Math.max(0, Math.floor(sides.top))];
  return {
    left: x,
    top: y,
    width: Math.min(full.width, Math.ceil(sides.right)) - x,
    height: Math.min(full.height, Math.ceil(sides.bottom)) - y,
    reads: turned ? 'up or down' : 'along'
  };
}
