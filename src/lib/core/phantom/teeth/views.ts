import type { Tooth } from '../../anatomy/teeth';
import type { Raster } from '../../raster/raster';
import { inverse, turnRaster } from '../../raster/turnRaster';
import { type Slot, slotTeeth } from '../../tray/slot';
import { type Vec3, add, movePoint, times, turnVector, unit } from '../space';
import { intraoralSensor } from '../xray/detector';
import type { Faults } from '../xray/faults';
import { type Radiograph, radiograph } from '../xray/radiograph';
import { type XrayView, xrayView } from '../xray/view';
import { mouthBody } from './body';
import { type Mouth, type PlacedTooth } from './dentition';
import { isLeft, isUpper, placeOf } from './sizes';

/** Views that a sensor in the mouth takes. */
export type ToothProjection = 'bitewing' | 'periapical' | 'occlusal';

export const sensorWidthPx = 1300;
export const sensorHeightPx = 1700;
export const sensorPitchMm = 0.02;
const sourceMm = 320;
const tongueSideMm = 9;

const mean = (points: Vec3[]): Vec3 =>
  times(
    points.reduce((sum, each) => add(sum, each), [0, 0, 0] as Vec3),
    1 / points.length
  );

/**
 * Where source and sensor stand for a view of these teeth, as the operator would place them: parallel to the teeth for
 * a periapical view, level with the bite for a bitewing, steeply from the front for an occlusal one. The picture is
 * upright: roots of upper teeth point up, the patient's right is on the left.
 */
export function toothView(
  mouth: Mouth,
  teeth: readonly Tooth[],
  projection: ToothProjection,
  lying: boolean
): XrayView {
  const wanted = mouth.teeth.filter((each) => teeth.includes(each.shape.tooth));
  const nearby = wanted.length > 0 ? wanted : mouth.teeth;
  const outward = unit(mean(nearby.map((each) => flat(turnVector(each.frame, [0, 1, 0])))));
  const frame = {
    pitchMm: sensorPitchMm,
    width: lying ? sensorHeightPx : sensorWidthPx,
    height: lying ? sensorWidthPx : sensorHeightPx,
    toObjectMm: sourceMm
  };
  const at = (share: (each: PlacedTooth) => number) =>
    mean(nearby.map((each) => movePoint(each.frame, [0, 0, share(each)])));
  if (projection === 'bitewing') {
    const [x, y] = at((each) => each.shape.size.crown);
    return xrayView({
      ...frame,
      through: [x, y, 0],
      along: [-outward[0], -outward[1], -0.09],
      up: [0, 0, 1],
      toDetectorMm: tongueSideMm
    });
  }
  if (projection === 'occlusal') {
    const upper = isUpper(nearby[0].shape.tooth);
    const [x, y] = at((each) => each.shape.size.crown);
    return xrayView({
      ...frame,
      through: [x, y + 8, upper ? 4 : -4],
      along: [0, 0.42, upper ? -0.91 : 0.91],
      up: [0, upper ? -1 : -1, 0],
      toDetectorMm: 7
    });
  }
  const upper = isUpper(nearby[0].shape.tooth);
  const middle = at((each) => (each.shape.size.crown - each.shape.size.root) / 2 + (upper ? 0.5 : 0));
  return xrayView({
    ...frame,
    through: middle,
    along: [-outward[0], -outward[1], upper ? -0.12 : 0.02],
    up: [0, 0, 1],
    toDetectorMm: tongueSideMm
  });
}

const flat = (v: Vec3): Vec3 => [v[0], v[1], 0];

/** The teeth that the beam for these ones passes: on the same side, in the same arch unless it is a bitewing. */
export function beamTeeth(mouth: Mouth, teeth: readonly Tooth[], projection: ToothProjection): Tooth[] {
  const arches = new Set(projection === 'bitewing' ? [true, false] : teeth.map(isUpper));
  const front = teeth.some((tooth) => placeOf(tooth) <= 3);
  const sides = new Set(teeth.map(isLeft));
  return mouth.teeth
    .map((each) => each.shape.tooth)
    .filter((tooth) => arches.has(isUpper(tooth)))
    .filter((tooth) => front || projection === 'occlusal' || sides.has(isLeft(tooth)));
}

/** A radiograph of these teeth, upright. */
export function toothRadiograph(
  mouth: Mouth,
  teeth: readonly Tooth[],
  projection: ToothProjection,
  lying: boolean,
  seed: number,
  faults: Faults = {}
): Radiograph {
  const view = toothView(mouth, teeth, projection, lying);
  const body = mouthBody(mouth, beamTeeth(mouth, teeth, projection));
  return radiograph([body], view, intraoralSensor, seed, faults);
}

/** @throws RangeError for a slot that no sensor in the mouth can fill */
export function toothProjectionOf({ projection, name }: Slot): ToothProjection {
  if (projection === 'bitewing' || projection === 'periapical' || projection === 'occlusal')
    return projection;
  throw new RangeError(`no sensor in the mouth takes ${name}, ${projection}`);
}

/** What a sensor placed for a slot delivers: turned as that placement turns it, so the slot's orientation rights it. */
export function takeForSlot(mouth: Mouth, slot: Slot, seed: number, faults: Faults = {}): Raster {
  const lying = slot.orientation.quarterTurns % 2 === 1;
  const { raster } = toothRadiograph(mouth, slotTeeth(slot), toothProjectionOf(slot), lying, seed, faults);
  return turnRaster(raster, inverse(slot.orientation));
}
