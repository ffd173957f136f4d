import type { Point } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { seededRandom } from '../../random';
import type { Vec3 } from '../space';
import { type Detector, exposed } from './detector';
import type { Faults } from './faults';
import type { Layer } from './layer';
import { addLayer } from './thickness';
import { type XrayView, magnificationAt, projected } from './view';

/** A thing in the beam: what it is made of, and where its landmarks are, in millimetres of the room. */
export interface Body {
  layers: Layer[];
  landmarks: Record<string, Vec3>;
}

/** Where a landmark is known to be, in the room and in the picture. */
export interface KnownPoint {
  patientPointMm: Vec3;
  imagePoint: Point;
  magnification: number;
  inPicture: boolean;
}

export interface Radiograph {
  raster: Raster;
  view: XrayView;
  known: Record<string, KnownPoint>;
}

export function knownPoints(view: XrayView, landmarks: Record<string, Vec3>): Record<string, KnownPoint> {
  return Object.fromEntries(
    Object.entries(landmarks).map(([name, patientPointMm]) => {
      const imagePoint = projected(view, patientPointMm);
      const { x, y } = imagePoint;
      const inPicture = x >= 0 && y >= 0 && x <= view.width && y <= view.height;
      return [
        name,
        { patientPointMm, imagePoint, magnification: magnificationAt(view, patientPointMm), inPicture }
      ];
    })
  );
}

/** Attenuation of all bodies along the ray to each pixel, row by row. */
export function attenuationOf(bodies: readonly Body[], view: XrayView): Float32Array {
  const map = new Float32Array(view.width * view.height);
  for (const body of bodies) for (const layer of body.layers) addLayer(map, view, layer);
  return map;
}

/**
 * A radiograph of bodies, with everything that is known about it. The same bodies, view and seed give the same bytes.
 * @param seed of the noise; nothing else in it is left to chance
 */
export function radiograph(
  bodies: readonly Body[],
  view: XrayView,
  detector: Detector,
  seed: number,
  faults: Faults = {}
): Radiograph {
  const map = attenuationOf(bodies, view);
  const raster = exposed(map, view.width, view.height, detector, seededRandom(seed), faults);
  const landmarks = Object.assign({}, ...bodies.map((body) => body.landmarks)) as Record<string, Vec3>;
  return { raster, view, known: knownPoints(view, landmarks) };
}
