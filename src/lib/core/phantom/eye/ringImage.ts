import type { Raster } from '../../raster/raster';
import { seededRandom } from '../../random';
import { gaussianByMeans } from '../xray/smooth';
import { noiseAt } from '../xray/weave';
import { type CorneaWish, cornea } from './cornea';
import { type EyePose, cameraRays, edgesAt, mirrored, posed } from './mirror';
import type { RingTarget } from '../../cornea/target';

export interface RingImageWish {
  cornea: CorneaWish;
  pose: EyePose;
  target: RingTarget;
  seed: number;
  /** Where the lids' edges stand, mm above and below the middle of the picture. */
  lids?: { upperMm: number; lowerMm: number };
  lashes?: number;
  /** Which side the nose shades, and how far in. */
  nose?: { side: 'right' | 'left'; reachMm: number };
  /** Share of the tear film that has broken up. */
  tearBreak?: number;
  /** The lid came down while the picture was taken. */
  blink?: boolean;
  pupilMm?: number;
  irisMm?: number;
}

/** What is known of a ring picture: the pupil and the limbus, and where rings can't be seen. */
export interface RingImage {
  raster: Raster;
  pupil: { x: number; y: number; radiusPx: number };
  limbus: { x: number; y: number; radiusPx: number };
}

/**
 * The picture that the instrument's camera takes: ring by ring mirrored in the cornea by true reflection, the iris and
 * pupil behind it, lids, lashes, nose and tear film before it. 8 bit.
 */
export function ringImage(wish: RingImageWish): RingImage {
  const { target, seed } = wish;
  const { width, height, pxPerMm } = target;
  const eye = posed(cornea(wish.cornea), wish.pose);
  const meet = cameraRays(eye, target);
  const random = seededRandom(seed);
  const irisMm = wish.irisMm ?? 5.9;
  const pupilMm = wish.pupilMm ?? 1.9;
  const light = new Float32Array(width * height);
  const rings = new Float32Array(width * height).fill(NaN);
  const share = new Float32Array(width * height);
  const lids = wish.lids ?? { upperMm: 5.2, lowerMm: 5.6 };
  const upper = wish.blink ? 0.9 : lids.upperMm;
  for (let py = 0; py < height; py++) {
    const y = (py + 0.5 - height / 2) / pxPerMm;
    for (let px = 0; px < width; px++) {
      const x = (px + 0.5 - width / 2) / pxPerMm;
      const i = py * width + px;
      const lidTop = -upper + 0.035 * x * x;
      const lidBottom = lids.lowerMm - 0.04 * x * x;
      if (y < lidTop || y > lidBottom) {
        light[i] = skin(x, y, y < lidTop ? lidTop - y : y - lidBottom, seed);
        continue;
      }
      const point = meet({ x: px + 0.5, y: py + 0.5 });
      const distance = point ? Math.hypot(point[0], point[1]) : Infinity;
      light[i] = withoutRings(point, distance, x, y, irisMm, pupilMm, seed);
      if (!point || distance > irisMm + 0.5) continue;
      const { from, way } = mirrored(eye, target, point);
      rings[i] = edgesAt(target, from, way, px > 0 ? rings[i - 1] : NaN) ?? NaN;
      share[i] =
        (wish.nose ? noseShade(wish.nose, x, y) : 1) *
        (wish.tearBreak ? tearFilm(wish.tearBreak, x, y, seed) : 1);
    }
  }
  addRings(light, rings, share, width, height);
  gaussianByMeans(light, width, height, 0.8);
  drawLashes(light, wish, random, upper, lids.lowerMm);
  const data = new Uint8Array(light.length);
  for (let i = 0; i < data.length; i++)
    data[i] = Math.max(0, Math.min(255, light[i] + 2.6 * random.normal()));
  const at = (distance: [number, number, number]) => {
    const p = eye.toRoom(distance);
    const share = target.cameraMm / (target.cameraMm + p[2]);
    return { x: width / 2 + p[0] * share * pxPerMm, y: height / 2 + p[1] * share * pxPerMm };
  };
  const limbusDepth = eye.cornea.at(irisMm, 0).z;
  return {
    raster: { width, height, channels: 1, bitsStored: 8, offset: 0, data },
    pupil: { ...at([0, 0, 3]), radiusPx: pupilMm * 1.1 * pxPerMm },
    limbus: { ...at([0, 0, limbusDepth]), radiusPx: irisMm * pxPerMm }
  };
}

const skin = (x: number, y: number, away: number, seed: number): number =>
  96 +
  26 * noiseAt(x * 1.1, y * 1.6, 3, seed) +
  10 * noiseAt(x * 5, y * 5, 1, seed) -
  46 * Math.exp(-away / 0.35);

/** White, iris and pupil, as they are where nothing is mirrored. */
function withoutRings(
  point: readonly number[] | null,
  distance: number,
  x: number,
  y: number,
  irisMm: number,
  pupilMm: number,
  seed: number
): number {
  if (!point || distance > irisMm + 1.6)
    return 150 + 18 * noiseAt(x * 0.8, y * 0.8, 5, seed) + veins(x, y, seed);
  const phi = Math.atan2(point[1], point[0]);
  const base =
    distance < pupilMm * 1.06
      ? 16
      : 52 + 20 * noiseAt(phi * 14, distance * 2.2, 1, seed) + 8 * noiseAt(phi * 40, distance * 5, 2, seed);
  const rim = (distance - irisMm) / 0.35;
  return rim > -1 ? base + (148 - base) / (1 + Math.exp(-3 * rim)) : base;
}

/**
 * Lays the rings over the eye. What part of a pixel is bright follows from where the nearest edge passes it: its
 * distance in edges over how many edges a pixel spans there.
 */
function addRings(
  light: Float32Array,
  rings: Float32Array,
  share: Float32Array,
  width: number,
  height: number
): void {
  for (let y = 1; y < height - 1; y++) {
    for (let x = 1; x < width - 1; x++) {
      const i = y * width + x;
      const edges = rings[i];
      if (Number.isNaN(edges)) continue;
      const slope = Math.hypot(between(rings, i - 1, i, i + 1), between(rings, i - width, i, i + width));
      const nearest = Math.round(edges);
      const inside = Math.min(1, Math.max(0, 0.5 + (edges - nearest) / Math.max(1e-6, slope)));
      const bright = nearest === 0 ? 0 : nearest % 2 === 1 ? inside : 1 - inside;
      light[i] += ringLight * share[i] * bright;
    }
  }
}

const ringLight = 168;

/** The slope of the map, from whichever neighbours it has. */
function between(map: Float32Array, before: number, at: number, after: number): number {
  const [a, b] = [map[before], map[after]];
  if (Number.isNaN(a)) return Number.isNaN(b) ? 0 : b - map[at];
  return Number.isNaN(b) ? map[at] - a : (b - a) / 2;
}

const veins = (x: number, y: number, seed: number) =>
  -26 * Math.max(0, 1 - 9 * Math.abs(noiseAt(x * 0.9 + 4, y * 2.4, 2, seed + 9)));

function noseShade(
  { side, reachMm }: { side: 'right' | 'left'; reachMm: number },
  x: number,
  y: number
): number {
  const inside = (side === 'right' ? x : -x) - (6.6 - reachMm) - 0.04 * (y - 0.6) ** 2;
  return inside > 0 ? Math.max(0, 1 - inside / 0.4) : 1;
}

/** Where the tear film has broken, rings fray and fade. */
function tearFilm(share: number, x: number, y: number, seed: number): number {
  const patch = noiseAt(x * 0.7, y * 0.7, 8, seed + 40);
  return patch > 0.75 - 1.1 * share ? 0.35 + 0.5 * Math.abs(noiseAt(x * 9, y * 9, 4, seed)) : 1;
}

function drawLashes(
  light: Float32Array,
  wish: RingImageWish,
  random: { uniform(): number; normal(): number },
  upperMm: number,
  lowerMm: number
): void {
  const { width, height, pxPerMm } = wish.target;
  const count = wish.lashes ?? 22;
  for (let i = 0; i < count; i++) {
    const fromAbove = random.uniform() < 0.72;
    const x0 = (random.uniform() - 0.5) * 11.5;
    const y0 = fromAbove ? -upperMm + 0.035 * x0 * x0 - 0.15 : lowerMm - 0.04 * x0 * x0 + 0.1;
    const length = (fromAbove ? 1.5 : 0.7) * (0.6 + 0.8 * random.uniform());
    const lean = x0 * 0.07 + 0.25 * random.normal();
    const steps = Math.ceil(length * pxPerMm);
    for (let s = 0; s < steps; s++) {
      const t = s / steps;
      const x = x0 + lean * length * t + 0.18 * t * t * Math.sign(x0);
      const y = y0 + (fromAbove ? 1 : -1) * length * t * (1 - 0.25 * t);
      const r = 2.3 * (1 - 0.75 * t);
      const [cx, cy] = [width / 2 + x * pxPerMm, height / 2 + y * pxPerMm];
      for (let py = Math.floor(cy - r); py <= cy + r; py++)
        for (let px = Math.floor(cx - r); px <= cx + r; px++)
          if (px >= 0 && py >= 0 && px < width && py < height && Math.hypot(px - cx, py - cy) <= r)
            light[py * width + px] = Math.min(light[py * width + px], 26);
    }
  }
}
