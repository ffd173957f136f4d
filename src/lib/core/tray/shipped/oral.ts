import { toothPlaces } from '../../anatomy/place';
import { type Tooth, isUpperTooth, toothParts } from '../../anatomy/teeth';
import type { Orientation } from '../../raster/orientation';
import type { Slot } from '../slot';

export interface OralView {
  id: string;
  name: string;
  teeth: readonly Tooth[];
  at: { x: number; y: number };
}

const upright: Orientation = { quarterTurns: 0, mirrored: false };

/** The patient's side that teeth are on: both where they lie across the middle. */
export function sideOfTeeth(teeth: readonly Tooth[]): 'right' | 'left' | 'both' {
  const right = teeth.map((tooth) => [1, 4].includes(toothParts(tooth).quadrant));
  return right.every(Boolean) ? 'right' : right.some(Boolean) ? 'both' : 'left';
}

/**
 * DICOM directions of an upright view of teeth: the patient's right is on the viewer's left, so the right edge of a
 * right-hand picture points to the front (A), that of a left-hand one to the back (P), that of the middle to the left (L).
 */
const directionsOf = (teeth: readonly Tooth[]): [string, string] => [
  { right: 'A', left: 'P', both: 'L' }[sideOfTeeth(teeth)],
  'F'
];

/** The sensor on its side, its cable towards the front of the mouth: a quarter turn, one way on the right, the other on the left. */
const onItsSide = (teeth: readonly Tooth[]): Orientation => ({
  quarterTurns: sideOfTeeth(teeth) === 'right' ? 1 : 3,
  mirrored: false
});

export const bitewing = ({ teeth, ...view }: OralView): Slot => ({
  ...view,
  places: toothPlaces(teeth),
  projection: 'bitewing',
  orientation: onItsSide(teeth),
  directions: directionsOf(teeth),
  shape: 'lying'
});

/** A bitewing with the sensor upright, for the height of the bone; at the front it shows both jaws' incisors. */
export const standingBitewing = (view: OralView): Slot => ({
  ...bitewing(view),
  orientation: upright,
  shape: 'standing'
});

/**
 * A periapical view. At the front the sensor stands upright, its cable towards the lips: below that turns the picture
 * half round. At the back it lies, as for a bitewing.
 */
export function periapical({ teeth, ...view }: OralView): Slot {
  const front = teeth.every((tooth) => toothParts(tooth).place <= 3);
  return {
    ...view,
    places: toothPlaces(teeth),
    projection: 'periapical',
    orientation: front ? { quarterTurns: isUpperTooth(teeth[0]) ? 0 : 2, mirrored: false } : onItsSide(teeth),
    directions: directionsOf(teeth),
    shape: front ? 'standing' : 'lying'
  };
}

/** The sensor bitten on: the front teeth at the top, the patient's right on the viewer's left. */
export const occlusal = ({ teeth, ...view }: OralView): Slot => ({
  ...view,
  places: toothPlaces(teeth),
  projection: 'occlusal',
  orientation: upright,
  directions: ['L', 'P'],
  shape: 'standing'
});

/** One row of views along an arch, evenly apart and slightly bent. */
export function archRow<T>(
  views: readonly T[],
  y: number,
  make: (view: T, at: { x: number; y: number }) => Slot
): Slot[] {
  const last = views.length - 1;
  return views.map((view, i) => {
    const x = last === 0 ? 0.5 : 0.072 + (0.856 * i) / last;
    const bend = 0.02 * Math.abs(2 * x - 1);
    return make(view, { x, y: y < 0.4 ? y + bend : y > 0.6 ? y - bend : y });
  });
}
