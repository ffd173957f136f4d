import { steelBall } from '../markers';
import type { SeededRandom } from '../../random';
import { type Part, ball, limb } from '../solid/part';
import { type Vec3, add } from '../space';
import { perMm } from '../xray/attenuation';
import { type Detector, flatPanel } from '../xray/detector';
import { type Body, type Radiograph, radiograph } from '../xray/radiograph';
import { magnificationAt, projected, xrayView } from '../xray/view';
import { bone } from '../bones/kit';

export interface BallSceneWish {
  width: number;
  height: number;
  /** Wanted diameters in the picture, in pixels, one ball each. */
  ballsPx: number[];
  /** Part of each ball that lies beyond the picture's edge or under metal is left to chance unless this is false. */
  besideBone?: boolean;
  dose?: number;
  detector?: Detector;
}

export interface BallScene extends Radiograph {
  balls: { center: { x: number; y: number }; diameterPx: number; diameterMm: number }[];
  pitchMm: number;
}

const pitchMm = 0.15;

/** Soft tissue, a bone or two, and steel balls anywhere: what a marker search has to cope with. */
export function ballScene(wish: BallSceneWish, random: SeededRandom, seed: number): BallScene {
  const { width, height } = wish;
  const view = xrayView({
    through: [0, 0, 0],
    along: [0, 0, 1],
    up: [0, -1, 0],
    toObjectMm: 1000,
    toDetectorMm: 90,
    pitchMm,
    width,
    height
  });
  const [halfX, halfY] = [(width * pitchMm) / 2, (height * pitchMm) / 2];
  const anywhere = (): Vec3 => [
    (2 * random.uniform() - 1) * halfX * 0.7,
    (2 * random.uniform() - 1) * halfY * 0.7,
    -20 + 50 * random.uniform()
  ];
  const softAt = anywhere();
  const soft: Body = {
    layers: [
      {
        parts: [limb(softAt, halfX * 0.9, add(softAt, [halfX * 0.2, halfY * 1.2, 0]), halfX * 0.7)],
        perMm: perMm.soft * 0.5
      }
    ],
    landmarks: {}
  };
  const bones: Body[] = [];
  for (let i = 0; i < 2; i++) {
    const a = anywhere();
    const r = halfX * (0.1 + 0.14 * random.uniform());
    const parts: Part[] = [limb(a, r, add(a, [halfX * (random.uniform() - 0.5), halfY * 1.3, 5]), r * 0.9)];
    if (random.uniform() < 0.5) parts.push(ball(a, r * 1.6));
    bones.push({ layers: bone({ parts, cortexMm: r * 0.22, seed: seed + i }), landmarks: {} });
  }
  const balls: BallScene['balls'] = [];
  const steel: Body[] = [];
  for (const wanted of wish.ballsPx) {
    for (let tries = 0; tries < 200; tries++) {
      const at = anywhere();
      const grow = magnificationAt(view, at) / pitchMm;
      const diameterMm = wanted / grow;
      const center = projected(view, at);
      const apart = balls.every(
        (other) =>
          Math.hypot(other.center.x - center.x, other.center.y - center.y) >
          0.75 * (other.diameterPx + wanted) + 6
      );
      const room = Math.min(center.x, center.y, width - center.x, height - center.y);
      if (!apart || room < wanted * 0.75 + 4) continue;
      steel.push(steelBall(at, diameterMm, `ball ${balls.length + 1}`));
      balls.push({ center, diameterPx: wanted, diameterMm });
      break;
    }
  }
  const bodies = wish.besideBone === false ? [soft, ...steel] : [soft, ...bones, ...steel];
  const made = radiograph(bodies, view, wish.detector ?? flatPanel, seed, { dose: wish.dose ?? 1 });
  return { ...made, balls, pitchMm };
}
