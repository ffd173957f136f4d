import type { SeededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import type { Raster } from '../../raster/raster';
import { gaussianByMeans } from '../xray/smooth';
import { type Imaging, type Transfer, anyImaging, imaged } from './imaging';

export interface ToothRootPicture {
  raster: Raster;
  /** Where the canal begins, two places further down it, and the lowest point of the root's outline; without a root where they would be. */
  entrance: Point;
  middle: Point;
  low: Point;
  tip: Point;
  /** Half the root's width at the lower place. */
  lowHalfPx: number;
}

/** A root: the middle of its outline and half its width, from the neck to the end. */
type Root = readonly { x: number; y: number; r: number }[];

/**
 * A root in its socket, drawn as a map of attenuation by formulas of its own: round dentine with a canal, the ligament's gap, a
 * denser wall around it, bone with a weave of chance up to a crest, neighbours on one side or both; the bone about the end
 * may be gone.
 * @param wish without a root only bone and neighbours are there
 */
export function toothRoot(
  transfer: Transfer,
  random: SeededRandom,
  wish: { root?: boolean; imaging?: Partial<Imaging> } = {}
): ToothRootPicture {
  const any = (low: number, high: number) => low + (high - low) * random.uniform();
  const [width, height] = [Math.round(any(380, 700)), Math.round(any(520, 900))];
  const perMm = height / any(20, 34);
  const lengthPx = Math.min(perMm * any(11, 16), 0.62 * height);
  const up = random.uniform() < 0.5;
  const tilt = any(-0.25, 0.25);
  const neck = { x: width * any(0.42, 0.58), y: height * any(0.2, 0.3) };
  const root = (aside: number, longer: number): Root => {
    const [atNeck, bend] = [perMm * any(1.7, 2.6), any(-0.16, 0.16) * lengthPx];
    const [waist, blunt] = [any(0.7, 0.95), any(0.22, 0.42)];
    const long = lengthPx * longer;
    return Array.from({ length: stations }, (_, i) => {
      const t = -0.5 + (1.5 * i) / (stations - 1);
      const s = Math.max(0, t);
      const r = atNeck * (t < 0 ? 1 - 0.5 * t : 1 - (1 - waist) * s - (waist - blunt) * s ** 3);
      const [u, v] = [aside + bend * s ** 3, t * (long - blunt * atNeck)];
      return {
        x: neck.x + u * Math.cos(tilt) - v * Math.sin(tilt),
        y: neck.y + u * Math.sin(tilt) + v * Math.cos(tilt),
        r
      };
    });
  };
  const main = root(0, 1);
  const apart = perMm * any(5.8, 8);
  const beside = [-1, 1]
    .filter(() => random.uniform() < 0.75)
    .map((way) => root(way * apart, any(0.8, 1.15)));
  const roots = (wish.root ?? true) ? [main, ...beside] : beside;
  const last = main[main.length - 1];
  const before = main[main.length - 3];
  const reach = Math.hypot(last.x - before.x, last.y - before.y);
  const tip = {
    x: last.x + (last.r * (last.x - before.x)) / reach,
    y: last.y + (last.r * (last.y - before.y)) / reach
  };

  const [bone, dentine, wall] = [any(0.025, 0.06), any(1.25, 1.7), any(1.3, 2)];
  const [gap, wallPx, flat] = [perMm * any(0.15, 0.35), perMm * any(0.2, 0.4), any(1, 1.7)];
  const deep = perMm * any(7, 12);
  const crest = neck.y + lengthPx * any(0.08, 0.25);
  const gone = random.uniform() < 0.2 ? perMm * any(1.5, 3.5) : 0;
  const canal = perMm * any(0.25, 0.5);
  const weave = clouds(width, height, perMm * any(0.25, 0.5), random);
  const coarse = any(0.1, 0.3);
  const map = new Float32Array(width * height);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const p = { x: x + 0.5, y: y + 0.5 };
      const at = y * width + x;
      // Through how much bone a ray goes, in pixels: a crest thins out.
      const full = deep * Math.min(1, Math.max(0, (p.y - crest) / (1.2 * perMm))) * (1 + coarse * weave[at]);
      let [boneOf, tooth, hard] = [full, 0, 0];
      for (const each of roots) {
        const { inside, r } = depthIn(each, p);
        const chord = (grown: number) => {
          const s = Math.min(inside + grown, r + grown);
          return s > 0 ? 2 * flat * Math.sqrt(s * (2 * (r + grown) - s)) : 0;
        };
        const [own, socket, outer] = [chord(0), chord(gap), chord(gap + wallPx)];
        const share = full > 0 ? Math.min(1, full / deep) : 0;
        boneOf -= Math.min(boneOf, outer * share);
        hard += (outer - socket) * share;
        tooth += own;
        if (own > 0) {
          const hollow = canal * canal - (r - inside) ** 2;
          if (hollow > 0 && inside > 0.4 * canal) tooth -= 2 * Math.sqrt(hollow);
        }
      }
      if (gone > 0) {
        const from = Math.hypot(p.x - tip.x, p.y - tip.y);
        if (from < gone) boneOf *= 0.25 + 0.75 * (from / gone) ** 4;
      }
      map[at] = 0.5 + (bone / perMm) * 10 * (boneOf + wall * hard + dentine * tooth) * 0.16;
    }
  const flipped = ({ x, y }: Point): Point => ({ x, y: up ? height - y : y });
  if (up)
    for (let y = 0; y < height >> 1; y++) {
      const [a, b] = [map.slice(y * width, (y + 1) * width), (height - 1 - y) * width];
      map.copyWithin(y * width, b, b + width);
      map.set(a, b);
    }
  return {
    raster: imaged(map, width, height, anyImaging(transfer, random, wish.imaging), random),
    entrance: flipped(main[12]),
    middle: flipped(main[24]),
    low: flipped(main[29]),
    lowHalfPx: main[29].r,
    tip: flipped(tip)
  };
}

const stations = 37;

/** How far inside a root's outline a point lies (negative outside), and half its width there. */
function depthIn(root: Root, { x, y }: Point): { inside: number; r: number } {
  let [inside, r] = [-Infinity, root[0].r];
  for (const each of root) {
    const here = each.r - Math.sqrt((x - each.x) ** 2 + (y - each.y) ** 2);
    if (here > inside) [inside, r] = [here, each.r];
  }
  return { inside, r };
}

/** Chance in grains of a size and of three times that, from about -2 to 2. */
function clouds(width: number, height: number, grainPx: number, random: SeededRandom): Float32Array {
  const sum = new Float32Array(width * height);
  for (const grain of [grainPx, 3 * grainPx]) {
    const layer = Float32Array.from({ length: sum.length }, () => random.normal());
    gaussianByMeans(layer, width, height, grain);
    let square = 0;
    for (const value of layer) square += value * value;
    const scale = 0.7 / Math.sqrt(square / layer.length);
    for (let i = 0; i < sum.length; i++) sum[i] += scale * layer[i];
  }
  return sum;
}
