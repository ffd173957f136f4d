import { bone } from '../bones/kit';
import { ruler, steelBar } from '../markers';
import { limb } from '../solid/part';
import type { Vec3 } from '../space';
import { perMm } from '../xray/attenuation';
import { flatPanel } from '../xray/detector';
import { type Body, type Radiograph, radiograph } from '../xray/radiograph';
import { magnificationAt, xrayView } from '../xray/view';

export interface RulerScene extends Radiograph {
  /** What one millimetre of the marker spans in the picture. */
  pxPerMm: number;
}

const view = xrayView({
  through: [0, 0, 0],
  along: [0, 0, 1],
  up: [0, -1, 0],
  toObjectMm: 1000,
  toDetectorMm: 90,
  pitchMm: 0.15,
  width: 600,
  height: 700
});

/** A bone in soft tissue, with a steel bar or a ruler turned by an angle over the detector. */
export function rulerScene(
  marker: { kind: 'bar'; lengthMm: number } | { kind: 'ruler'; lengthMm: number },
  angleDeg: number,
  seed: number
): RulerScene {
  const a = (angleDeg * Math.PI) / 180;
  const way: Vec3 = [Math.cos(a), Math.sin(a), 0];
  const high = 12;
  const end = (share: number): Vec3 => [
    share * marker.lengthMm * way[0] - 4,
    share * marker.lengthMm * way[1] + 6,
    high
  ];
  const around: Body = {
    layers: [
      { parts: [limb([0, -20, 0], 38, [10, 60, 0], 30)], perMm: perMm.soft * 0.5 },
      ...bone({ parts: [limb([-10, -30, 0], 8, [0, 60, 0], 9)], cortexMm: 2, seed })
    ],
    landmarks: {}
  };
  const body =
    marker.kind === 'bar'
      ? steelBar(end(-0.5), end(0.5), 3)
      : ruler(end(-0.5), way, [-way[1], way[0], 0], marker.lengthMm);
  const made = radiograph([around, body], view, flatPanel, seed);
  return { ...made, pxPerMm: magnificationAt(view, [0, 0, high]) / view.pitchMm };
}
