import { type SeededRandom, anyBetween, anyTimes } from '../../random';
import type { Point } from '../../raster/orientation';
import { type Beam, type ChainPicture, byAnyChain } from './chain';
import { focalSpread, gaussianSpread } from './spread';

export interface RoundPicture extends ChainPicture {
  width: number;
  height: number;
  center: Point;
  /** Of a ball the shorter diameter, of a disc the longer. */
  sizePx: number;
  /** Attenuation along its middle, natural logarithm. */
  throughMiddle: number;
}

/**
 * Small pictures of one ball or disc over what may lie behind it, of one drawing by several chains: what the reading of
 * edges is learned from. Nothing here is shared with the pictures it is judged by (`phantom/foreign`).
 */
export function roundPictures(kind: 'ball' | 'disc', count: number, random: SeededRandom): RoundPicture[] {
  const blurPx = anyTimes(random, 0.5, random.uniform() < 0.85 ? 2 : 5);
  const share = random.uniform();
  const [focalPx, detectorPx] = [blurPx * Math.sqrt(share), blurPx * Math.sqrt(1 - share)];
  const least = Math.max(6, 4.5 * blurPx);
  const sizePx = anyTimes(random, least, Math.max(least + 1, random.uniform() < 0.9 ? 60 : 170));
  const throughMiddle = anyDepth(kind, random);
  const hardened = random.uniform() < 0.3 ? anyBetween(random, 0.75, 1) : 1;
  const around = 1.1 * sizePx + 2 * Math.min(40, 20 + 0.225 * sizePx);
  const width = Math.ceil(around + anyBetween(random, 0, 20));
  const height = Math.ceil(around + anyBetween(random, 0, 20));
  const center = { x: width / 2 + anyBetween(random, -6, 6), y: height / 2 + anyBetween(random, -6, 6) };
  const rays = behind(width, height, center, sizePx, random);
  const beam = { width, height, rays };
  const solid =
    kind === 'ball'
      ? anyBall(sizePx, throughMiddle, hardened, random)
      : anyDisc(sizePx, throughMiddle, random);
  drawn(beam, center, solid);
  spread(beam, focalPx, detectorPx, random);
  return Array.from({ length: count }, () => ({
    ...byAnyChain(beam, random),
    width,
    height,
    center,
    sizePx,
    throughMiddle
  }));
}

/** Any metal: three in four as markers are made, the rest from hardly there to opaque. */
function anyDepth(kind: 'ball' | 'disc', random: SeededRandom): number {
  const usual = random.uniform() < 0.75;
  if (kind === 'ball') return usual ? anyTimes(random, 1.3, 20) : anyTimes(random, 0.35, 70);
  return usual ? anyTimes(random, 0.8, 9) : anyTimes(random, 0.25, 30);
}

/** Rays that come through what lies behind: nothing, or flesh that thins out, bones and texture. */
function behind(
  width: number,
  height: number,
  center: Point,
  sizePx: number,
  random: SeededRandom
): Float32Array {
  const bare = random.uniform() < 0.3;
  const base = bare ? anyBetween(random, 0, 0.05) : anyBetween(random, 0.1, 2.2);
  const slopes = [0.6, 0.6, 0.3, 0.3, 0.3].map((most) => (bare ? 0 : most * anyBetween(random, -1, 1)));
  const map = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const [u, v] = [(x - center.x) / 150, (y - center.y) / 150];
      const bends = slopes[2] * u * u + slopes[3] * v * v + slopes[4] * u * v;
      map[y * width + x] = Math.max(0, base + slopes[0] * u + slopes[1] * v + bends);
    }
  if (!bare) {
    const bones = Math.floor(anyBetween(random, 0, 2.4));
    for (let i = 0; i < bones; i++) addBone(map, width, height, center, sizePx, random);
    addTexture(map, width, height, random);
  }
  for (let i = 0; i < map.length; i++) map[i] = Math.exp(-map[i]);
  return map;
}

/** A band with soft rims, anywhere across the picture. */
function addBone(
  map: Float32Array,
  width: number,
  height: number,
  center: Point,
  sizePx: number,
  random: SeededRandom
): void {
  const a = anyBetween(random, 0, 2 * Math.PI);
  const offPx = anyBetween(random, -0.8, 0.8) * sizePx;
  const widePx = anyBetween(random, 8, 60);
  const depth = anyBetween(random, 0.1, 1);
  const softPx = anyBetween(random, 1, 12);
  const [c, s] = [Math.cos(a), Math.sin(a)];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const across = (x - center.x) * c + (y - center.y) * s - offPx;
      const within = (widePx - Math.abs(across - widePx / 2)) / softPx;
      if (within > -4) map[y * width + x] += depth / (1 + Math.exp(-within));
    }
}

function addTexture(map: Float32Array, width: number, height: number, random: SeededRandom): void {
  const strength = anyBetween(random, 0, 0.05);
  if (random.uniform() > 0.7) return;
  const texture = Float32Array.from(map, () => random.normal());
  const sdPx = anyTimes(random, 2, 10);
  gaussianSpread(texture, width, height, sdPx);
  for (let i = 0; i < map.length; i++) map[i] = Math.max(0, map[i] + 3.5 * sdPx * strength * texture[i]);
}

/** How much is taken away at a place beside the middle, and within which distances of it a rim can lie. */
interface Solid {
  at: (dx: number, dy: number) => number;
  rimFromPx: number;
  reachPx: number;
}

/** A ball, seen from the side half of the time: longer one way. */
function anyBall(sizePx: number, depth: number, hardened: number, random: SeededRandom): Solid {
  const [c, s] = anyWay(random);
  const r = sizePx / 2;
  const long = r * (random.uniform() < 0.5 ? 1 : anyBetween(random, 1, 1.07));
  return {
    at: (dx, dy) => {
      const left = 1 - ((dx * c + dy * s) / long) ** 2 - ((dy * c - dx * s) / r) ** 2;
      return left > 0 ? depth * Math.sqrt(left) ** hardened : 0;
    },
    rimFromPx: r - 3,
    reachPx: long + 2
  };
}

/** A disc of some thickness, tilted half of the time: its two faces then lie beside each other. */
function anyDisc(sizePx: number, depth: number, random: SeededRandom): Solid {
  const [c, s] = anyWay(random);
  const r = sizePx / 2;
  const tilt = random.uniform() < 0.45 ? 0 : (anyBetween(random, 0, 38) * Math.PI) / 180;
  const narrow = Math.cos(tilt);
  const facesPx = sizePx * anyBetween(random, 0.04, 0.22) * Math.sin(tilt);
  return {
    at: (dx, dy) => {
      const left = 1 - ((dx * c + dy * s) / r) ** 2;
      if (left <= 0) return 0;
      const half = r * narrow * Math.sqrt(left);
      const across = dy * c - dx * s;
      if (facesPx < 0.02) return Math.abs(across) < half ? depth / narrow : 0;
      const from = Math.max(-0.5, (across - half) / facesPx);
      const to = Math.min(0.5, (across + half) / facesPx);
      return to > from ? (depth / narrow) * (to - from) : 0;
    },
    rimFromPx: r * narrow - facesPx - 2,
    reachPx: r + facesPx + 2
  };
}

function anyWay(random: SeededRandom): [number, number] {
  const a = anyBetween(random, 0, Math.PI);
  return [Math.cos(a), Math.sin(a)];
}

/** Samples a side of a pixel at the rim: what gets through is the mean over the pixel. */
const fine = 4;

function drawn({ width, height, rays }: Beam, center: Point, { at, rimFromPx, reachPx }: Solid): void {
  const [left, right] = [Math.max(0, Math.floor(center.x - reachPx)), Math.min(width, center.x + reachPx)];
  const [top, bottom] = [Math.max(0, Math.floor(center.y - reachPx)), Math.min(height, center.y + reachPx)];
  for (let y = top; y < bottom; y++)
    for (let x = left; x < right; x++) {
      const [dx, dy] = [x - center.x, y - center.y];
      if (Math.hypot(dx + 0.5, dy + 0.5) <= rimFromPx) {
        rays[y * width + x] *= Math.exp(-at(dx + 0.5, dy + 0.5));
        continue;
      }
      let through = 0;
      for (let v = 0; v < fine; v++)
        for (let u = 0; u < fine; u++) through += Math.exp(-at(dx + (u + 0.5) / fine, dy + (v + 0.5) / fine));
      rays[y * width + x] *= through / (fine * fine);
    }
}

/** The focal spot's spread, then the detector's, three times in four with a skirt. */
function spread(
  { width, height, rays }: Beam,
  focalPx: number,
  detectorPx: number,
  random: SeededRandom
): void {
  if (random.uniform() < 0.7) gaussianSpread(rays, width, height, focalPx);
  else focalSpread(rays, width, height, focalPx);
  const skirt = random.uniform() < 0.25 ? 0 : anyBetween(random, 0, 0.3);
  const times = anyBetween(random, 1.2, 2.4);
  if (skirt === 0) {
    gaussianSpread(rays, width, height, detectorPx);
    return;
  }
  const wide = rays.slice();
  gaussianSpread(wide, width, height, detectorPx * times);
  gaussianSpread(rays, width, height, 0.85 * detectorPx);
  for (let i = 0; i < rays.length; i++) rays[i] = (1 - skirt) * rays[i] + skirt * wide[i];
}
