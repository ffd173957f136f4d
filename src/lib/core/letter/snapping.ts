import { insideMm } from '../print/paper';
import { type PicturePlace, leastPlaceMm, mostPlaceHighMm } from './letterPlace';

type Rect = Pick<PicturePlace, 'xMm' | 'yMm' | 'widthMm' | 'heightMm'>;

/** Within this a place goes onto a line. */
const reachMm = 2;
/** Without a line, places lie on whole steps. */
export const stepMm = 1;
/** Between two places in a row, as wide as a caption's letters are high. */
const gapMm = 5;

/** A line that a place lies on, seen while it is moved. */
export interface SnapLine {
  way: 'upright' | 'across';
  atMm: number;
}
export interface Snapped<Of extends Rect> {
  place: Of;
  lines: SnapLine[];
}

const ends = ({ xMm, widthMm }: Rect): number[] => [xMm, xMm + widthMm / 2, xMm + widthMm];
const levels = ({ yMm, heightMm }: Rect): number[] => [yMm, yMm + heightMm / 2, yMm + heightMm];

/** The smallest way that brings one of the own lines onto one of the others; null where none is in reach. */
function nearest(own: readonly number[], others: readonly number[]): { by: number; at: number } | null {
  let best: { by: number; at: number } | null = null;
  for (const mine of own)
    for (const at of others)
      // Of two that are as near the first one counts, whatever the last digits say.
      if (Math.abs(at - mine) <= reachMm && (!best || Math.abs(at - mine) < Math.abs(best.by) - 1e-6))
        best = { by: at - mine, at };
  return best;
}

const toStep = (mm: number) => Math.round(mm / stepMm) * stepMm;
/** To a micrometre, so that sums of halves leave no crumbs. */
const tidy = (mm: number) => Math.round(mm * 1000) / 1000 + 0;
const within = (value: number, least: number, most: number) => tidy(Math.min(Math.max(value, least), most));

/** A place exactly as somebody says it, as far as its row allows. */
export function keptInside<Of extends Rect>(place: Of): Of {
  const widthMm = within(place.widthMm, leastPlaceMm, insideMm);
  const heightMm = within(place.heightMm, leastPlaceMm, mostPlaceHighMm);
  return {
    ...place,
    widthMm,
    heightMm,
    xMm: within(place.xMm, 0, insideMm - widthMm),
    yMm: within(place.yMm, 0, mostPlaceHighMm - heightMm)
  };
}

/**
 * A place as it lies when it is let go there: on an edge or a middle of another one, a gap beside it, on the row's own
 * edges and middle where one is within 2 mm, else on whole millimetres; never out of its row.
 */
export function snapMoved<Of extends Rect>(place: Of, others: readonly Rect[]): Snapped<Of> {
  const upright = [
    0,
    insideMm / 2,
    insideMm,
    ...others.flatMap((each) => [...ends(each), each.xMm - gapMm, each.xMm + each.widthMm + gapMm])
  ];
  const across = [
    0,
    ...others.flatMap((each) => [...levels(each), each.yMm - gapMm, each.yMm + each.heightMm + gapMm])
  ];
  const x = nearest(ends(place), upright);
  const y = nearest(levels(place), across);
  return {
    place: {
      ...place,
      xMm: within(x ? place.xMm + x.by : toStep(place.xMm), 0, insideMm - place.widthMm),
      yMm: within(y ? place.yMm + y.by : toStep(place.yMm), 0, mostPlaceHighMm - place.heightMm)
    },
    lines: [
      ...(x ? [{ way: 'upright' as const, atMm: x.at }] : []),
      ...(y ? [{ way: 'across' as const, atMm: y.at }] : [])
    ]
  };
}

/** The same for its lower right corner: its size becomes that of another one, or its edge goes onto a line. */
export function snapSized<Of extends Rect>(place: Of, others: readonly Rect[]): Snapped<Of> {
  const right = place.xMm + place.widthMm;
  const foot = place.yMm + place.heightMm;
  const x = nearest(
    [right],
    [insideMm, ...others.flatMap((each) => [...ends(each), place.xMm + each.widthMm])]
  );
  const y = nearest(
    [foot],
    others.flatMap((each) => [...levels(each), place.yMm + each.heightMm])
  );
  return {
    place: {
      ...place,
      widthMm: within(x ? x.at - place.xMm : toStep(place.widthMm), leastPlaceMm, insideMm - place.xMm),
      heightMm: within(
        y ? y.at - place.yMm : toStep(place.heightMm),
        leastPlaceMm,
        mostPlaceHighMm - place.yMm
      )
    },
    lines: [
      ...(x ? [{ way: 'upright' as const, atMm: x.at }] : []),
      ...(y ? [{ way: 'across' as const, atMm: y.at }] : [])
    ]
  };
}

/** Several alike, aligned at once: side by side at one height in the order they lie in, as large as the row allows. */
export function alignedInRow<Of extends Rect>(places: readonly Of[]): Of[] {
  const count = places.length;
  if (count === 0) return [];
  const widthMm = (insideMm - gapMm * (count - 1)) / count;
  if (widthMm < leastPlaceMm) throw new RangeError(`${count} places do not fit side by side.`);
  const heightMm = within(
    Math.max(...places.map((each) => (each.heightMm / each.widthMm) * widthMm)),
    leastPlaceMm,
    mostPlaceHighMm
  );
  const order = places.toSorted((a, b) => a.xMm - b.xMm || a.yMm - b.yMm);
  return places.map((each) => ({
    ...each,
    widthMm,
    heightMm,
    xMm: order.indexOf(each) * (widthMm + gapMm),
    yMm: 0
  }));
}

/** Where one more place goes: beside the last one where there is room, else under all. */
export function roomForMore(places: readonly Rect[], size: { widthMm: number; heightMm: number }): Rect {
  const last = places.at(-1);
  if (!last) return { ...size, xMm: 0, yMm: 0 };
  const xMm = last.xMm + last.widthMm + gapMm;
  return xMm + size.widthMm <= insideMm
    ? { ...size, xMm, yMm: last.yMm }
    : { ...size, xMm: 0, yMm: Math.max(...places.map((each) => each.yMm + each.heightMm)) + gapMm * 2 };
}
