import type { RingTarget } from '../../cornea/target';
import { gaussian } from '../../raster/filters/gaussian';
import { type Patch, patchOfRaster } from '../../raster/patch';
import type { Point } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { type CorneaWish, cornea } from '../eye/cornea';
import { type EyePose, edgesAt, meetCornea, mirrored, posed } from '../eye/mirror';
import { type RingImageWish, ringImage } from '../eye/ringImage';
import { seededRandom } from '../../random';

/** What can spoil a take of an eye. */
export type EyeFault = 'blink' | 'lid' | 'moved' | 'out of focus' | 'another eye';

export interface EyeTake {
  raster: Raster;
  pose: EyePose;
  gazeRightDeg: number;
  gazeUpDeg: number;
  /** What the instrument's range finder said: z of the cornea on the camera's axis, with its standard uncertainty. */
  range: { mm: number; uncertaintyMm: number };
}

/**
 * Straight ahead, four sides and the diagonals between, in degrees to the picture's right and up: so far that steep
 * corneas, which show less of themselves in one take, are seen out to the limbus too.
 */
export const nineGazes: readonly (readonly [number, number])[] = [
  [0, 0],
  [19, 0],
  [-19, 0],
  [0, 19],
  [0, -19],
  [14, 14],
  [-14, 14],
  [14, -14],
  [-14, -14]
];

const rangeSdMm = 0.005;

/**
 * A take of an eye that was asked to look somewhere: it turns there to half a degree, and stands to a tenth of a
 * millimetre. The first gaze, straight ahead, is exact in its turn.
 */
export function eyeTake(
  shape: CorneaWish,
  [right, up]: readonly [number, number],
  target: RingTarget,
  seed: number,
  more: Partial<RingImageWish> & { fault?: EyeFault } = {}
): EyeTake {
  const random = seededRandom(seed);
  const turned = right === 0 && up === 0 ? 0 : 0.5;
  const pose: EyePose = {
    gazeRightDeg: right + turned * random.normal(),
    gazeUpDeg: up + turned * random.normal(),
    shiftMm: [0.1 * random.normal(), 0.1 * random.normal(), 0.05 * random.normal()],
    turningMm: 13.5
  };
  const { fault, ...wish } = more;
  const shapeTaken = fault === 'another eye' ? otherThan(shape) : shape;
  const { raster } = ringImage({ cornea: shapeTaken, pose, target, seed, ...spoiling(fault, pose), ...wish });
  return {
    raster: spoilt(raster, fault, 360 * random.uniform()),
    pose,
    gazeRightDeg: right,
    gazeUpDeg: up,
    range: { mm: rangeTo(shapeTaken, pose, target) + rangeSdMm * random.normal(), uncertaintyMm: rangeSdMm }
  };
}

/**
 * What a perfect range finder would say: z of the cornea on the camera's axis, mm.
 * @throws RangeError when the eye looks so far aside that the axis misses it
 */
export function rangeTo(shape: CorneaWish, pose: EyePose, target: RingTarget): number {
  const eye = posed(cornea(shape), pose);
  const middle = meetCornea(eye, target, { x: target.width / 2, y: target.height / 2 });
  if (!middle) throw new RangeError('the eye is out of the picture: the camera’s axis misses its cornea');
  return eye.toRoom(middle)[2];
}

const otherThan = (shape: CorneaWish): CorneaWish => ({
  flatMm: shape.flatMm - 0.35,
  steepMm: shape.flatMm - 0.5,
  axisDeg: 80
});

/** The cornea's centre of curvature lies this far before the eye's centre of turning: the rings move by it with the gaze. */
const leverMm = 5.7;

function spoiling(fault: EyeFault | undefined, { gazeUpDeg }: EyePose): Partial<RingImageWish> {
  if (fault === 'blink') return { blink: true };
  if (fault !== 'lid') return {};
  // A lid that nobody holds goes up and down with the eye.
  const upperMm = 2 + leverMm * Math.sin((gazeUpDeg * Math.PI) / 180);
  return { lids: { upperMm, lowerMm: 4.5 }, lashes: 60 };
}

function spoilt(raster: Raster, fault: EyeFault | undefined, directionDeg: number): Raster {
  if (fault === 'out of focus') return blurred(raster, (patch) => gaussian(patch, 4));
  if (fault === 'moved') return blurred(raster, (patch) => smeared(patch, 14, directionDeg));
  return raster;
}

function blurred(raster: Raster, by: (patch: Patch) => Patch): Raster {
  const { data } = by(patchOfRaster(raster));
  return { ...raster, data: Uint8Array.from(data, (value) => Math.round(Math.max(0, Math.min(255, value)))) };
}

/** Mean along a stretch, as of an eye that moved evenly while the light was on. */
function smeared(patch: Patch, lengthPx: number, directionDeg: number): Patch {
  const { width, height, data } = patch;
  const [c, s] = [Math.cos((directionDeg * Math.PI) / 180), Math.sin((directionDeg * Math.PI) / 180)];
  const out = new Float32Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let k = 0; k < lengthPx; k++) {
        const away = k - (lengthPx - 1) / 2;
        const px = Math.min(width - 1, Math.max(0, Math.round(x + away * c)));
        const py = Math.min(height - 1, Math.max(0, Math.round(y + away * s)));
        sum += data[py * width + px];
      }
      out[y * width + x] = sum / lengthPx;
    }
  return { ...patch, data: out };
}

/**
 * The edge of the target that is really mirrored at an image point, as an index into its edges, between two of them a
 * number between; null where none is.
 */
export function trueEdgeAt(
  shape: CorneaWish,
  pose: EyePose,
  target: RingTarget
): (image: Point) => number | null {
  const eye = posed(cornea(shape), pose);
  return (image) => {
    const point = meetCornea(eye, target, image);
    if (!point) return null;
    const { from, way } = mirrored(eye, target, point);
    const count = edgesAt(target, from, way);
    return count === null ? null : count - 1;
  };
}

/**
 * How far found heights lie behind the true ones over a disc, micrometres, every half millimetre.
 * @param heightAt z of the found surface in the room's axes
 */
export function offFromTruthUm(
  shape: CorneaWish,
  pose: EyePose,
  heightAt: (x: number, y: number) => number,
  middle: { x: number; y: number },
  radiusMm: number
): number[] {
  const eye = posed(cornea(shape), pose);
  const out: number[] = [];
  for (let y = -radiusMm; y <= radiusMm; y += 0.5)
    for (let x = -radiusMm; x <= radiusMm; x += 0.5) {
      if (Math.hypot(x, y) > radiusMm) continue;
      const [roomX, roomY] = [middle.x + x, middle.y + y];
      const found = heightAt(roomX, roomY);
      let z = found;
      for (let i = 0; i < 25; i++) {
        const [ex, ey, ez] = eye.toEye([roomX, roomY, z]);
        z -= ez - eye.cornea.height(ex, ey);
      }
      out.push(1000 * (found - z));
    }
  return out;
}
