import { type Tooth, lowerArch, permanentTeeth, upperArch } from '../../anatomy/teeth';
import { seededRandom } from '../../random';
import { type Frame, type Vec3, inTurn, movePoint, turnedAbout, unit } from '../space';
import { isLeft, isUpper, placeOf, sizeOf } from './sizes';
import { type ToothShape, toothShape } from './tooth';

/** What was done to a tooth, or befell it. */
export type Condition =
  | { kind: 'filling'; at: 'middle' | 'mesial' | 'distal' }
  | { kind: 'crown' }
  | { kind: 'decay'; at: 'mesial' | 'distal' }
  /** A file in each canal, ending this far short of the root's end. */
  | { kind: 'file'; shortMm: number }
  | { kind: 'root filling'; shortMm: number };

export interface MouthWish {
  seed: number;
  missing?: readonly Tooth[];
  conditions?: Partial<Record<Tooth, readonly Condition[]>>;
  /** Bone lost below its healthy height of 1.5 mm under the necks, in mm; per tooth, or everywhere. */
  boneLossMm?: number | Partial<Record<Tooth, number>>;
}

export interface PlacedTooth {
  shape: ToothShape;
  /** From the tooth's own axes to the patient's. */
  frame: Frame;
  conditions: readonly Condition[];
  /** Distance from the neck to the bone's edge, in mm. */
  crestMm: number;
}

export interface Mouth {
  seed: number;
  teeth: PlacedTooth[];
}

const healthyCrestMm = 1.5;
/** Half axes of the ovals that the biting edges follow: to the side and to the front, in mm. */
const ovals = { upper: { side: 30.5, front: 51 }, lower: { side: 28, front: 49 } } as const;
/** The upper front teeth stand in front of the lower ones, and the biting plane bends up at the back. */
const lowerBackMm = 1.6;
/** Between the arches when the teeth rest on a bite holder. */
const biteMm = 1.2;

/** Points along one half of an arch, from the midline back, at these distances along it. */
function alongArch(upper: boolean, distance: number): { at: Vec3; outward: Vec3; back: Vec3 } {
  const { side, front } = upper ? ovals.upper : ovals.lower;
  let angle = 0;
  let gone = 0;
  const step = 0.0004;
  while (gone < distance) {
    gone += Math.hypot(side * Math.cos(angle), front * Math.sin(angle)) * step;
    angle += step;
  }
  const y = -front * Math.cos(angle) + (upper ? 0 : lowerBackMm);
  const back = unit([side * Math.cos(angle), front * Math.sin(angle), 0]);
  return { at: [side * Math.sin(angle), y, 0], outward: [back[1], -back[0], 0], back };
}

/**
 * A mouth: every tooth's shape and place. The same wish gives the same mouth, so that pictures from all sides and over
 * the years agree. The biting plane is z = 0, the middle of the front is at y = -50.
 */
export function mouth(wish: MouthWish): Mouth {
  const teeth = permanentTeeth
    .filter((tooth) => !wish.missing?.includes(tooth))
    .map((tooth): PlacedTooth => {
      const random = seededRandom(wish.seed * 131 + tooth);
      const shape = toothShape(tooth, random);
      const lost =
        typeof wish.boneLossMm === 'object' ? (wish.boneLossMm[tooth] ?? 0) : (wish.boneLossMm ?? 0);
      return {
        shape,
        frame: placing(tooth, shape, (sd) => sd * random.normal()),
        conditions: wish.conditions?.[tooth] ?? [],
        crestMm: healthyCrestMm + lost + 0.25 * Math.abs(random.normal())
      };
    });
  return { seed: wish.seed, teeth };
}

function placing(tooth: Tooth, shape: ToothShape, vary: (sd: number) => number): Frame {
  const upper = isUpper(tooth);
  const place = placeOf(tooth);
  const half = (upper ? upperArch : lowerArch).filter((each) => isLeft(each) === isLeft(tooth));
  const before = half
    .filter((each) => placeOf(each) < place)
    .reduce((sum, each) => sum + sizeOf(each).width, 0);
  const { at, outward, back } = alongArch(upper, before + sizeOf(tooth).width / 2);
  const mirror = isLeft(tooth) ? 1 : -1;
  const place3: Vec3 = [at[0] * mirror, at[1], 0];
  const out: Vec3 = [outward[0] * mirror, outward[1], 0];
  const mesial: Vec3 = [-back[0] * mirror, -back[1], 0];
  const up: Vec3 = [0, 0, upper ? -1 : 1];
  const anterior = place <= 3;
  // Roots of front teeth lean towards the palate or the tongue, those of back teeth hardly.
  const leanDeg = (anterior ? (upper ? 24 : 14) : upper ? 6 : -7) + vary(1.5);
  const towardsMidlineDeg = (place >= 6 ? 4 : anterior ? 3 : 2) + vary(1.5);
  const neckZ = (upper ? 1 : -1) * (shape.size.crown + biteMm / 2 + curve(place));
  const stand: Frame = { x: mesial, y: out, z: up, origin: [place3[0], place3[1], neckZ] };
  const tip = movePoint(stand, [0, 0, shape.size.crown]);
  // Turning by a positive angle about the mesial axis moves the root inwards in the tooth's own axes.
  const sense = handedness(stand);
  return inTurn(
    stand,
    turnedAbout(mesial, sense * leanDeg, tip),
    turnedAbout(out, sense * towardsMidlineDeg, tip)
  );
}

/** The biting plane rises towards the back: the curve of Spee (1890), for both arches alike. */
const curve = (place: number): number => (place <= 4 ? 0 : 0.22 * (place - 4));

function handedness({ x, y, z }: Frame): number {
  const volume =
    x[0] * (y[1] * z[2] - y[2] * z[1]) +
    x[1] * (y[2] * z[0] - y[0] * z[2]) +
    x[2] * (y[0] * z[1] - y[1] * z[0]);
  return volume > 0 ? 1 : -1;
}

export const toothIn = (of: Mouth, tooth: Tooth): PlacedTooth | undefined =>
  of.teeth.find((each) => each.shape.tooth === tooth);
