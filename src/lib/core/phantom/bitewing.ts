import { toothKind } from '../anatomy/teeth';
import type { Raster } from '../raster/raster';
import { inverse, turnRaster } from '../raster/turnRaster';
import type { Slot } from '../tray/tray';
import { type SeededRandom, seededRandom } from './random';

export const sensorWidthPx = 1300;
export const sensorHeightPx = 1700;
export const sensorPitchMm = 0.02;

/** The occlusal plane, in mm from the top of the upright picture, which is 34 mm wide and 26 mm high. */
const occlusalMm = 13;
const crestFromCuspMm = 8.6;
const crownMm = 7;
/** Reach of the focal spot's half-shadow and the sensor's light spread. */
const penumbraPx = 4;
/** Attenuation per mm at dental energies, rounded: enamel, dentine, bone, soft tissue, amalgam. */
const perMm = { enamel: 0.21, dentine: 0.125, bone: 0.055, soft: 0.022, metal: 0.55 };

interface ToothShape {
  upper: boolean;
  centerMm: number;
  widthMm: number;
  molar: boolean;
  pulpMm: number;
  filling: { fromMm: number; toMm: number; depthMm: number } | null;
  decay: { atMm: number; sizeMm: number } | null;
}

/**
 * A drawn bitewing: crowns of both jaws with enamel, dentine, pulp, bone crest and a trabecular pattern, as a
 * thickness map turned into a presentation picture, with quantum noise. 16 bit, as the sensor delivers it in the
 * placement of the slot (so the slot's orientation sets it upright). The same seed gives the same bytes.
 * @param exposure relative to a good one, 1; less is noisier
 */
export function bitewing(slot: Slot, seed: number, exposure = 1): Raster {
  const width = sensorHeightPx;
  const height = sensorWidthPx;
  const random = seededRandom(seed * 7919 + slot.teeth[0]);
  const shift = random.normal() * 0.5;
  const depth = new Float32Array(width * height);
  const teeth = shapes(slot, random, shift);
  addSoftTissue(depth, width, height, random);
  addBone(depth, width, height, teeth, random);
  for (const tooth of teeth) addTooth(depth, width, height, tooth);
  for (let pass = 0; pass < 2; pass++) blur(depth, width, height, penumbraPx);
  const upright: Raster = {
    width,
    height,
    channels: 1,
    bitsStored: 16,
    offset: 0,
    data: exposed(depth, exposure, random)
  };
  return turnRaster(upright, inverse(slot.orientation));
}

function shapes(slot: Slot, random: SeededRandom, shift: number): ToothShape[] {
  const jaws = [true, false].map((upper) => slot.teeth.filter((t) => (upper ? t < 30 : t >= 30)));
  return jaws.flatMap((teeth, jaw) => {
    // From left to right as seen: on the patient's right the back teeth come first.
    const order = [...teeth].sort((a, b) =>
      slot.side === 'right' ? (b % 10) - (a % 10) : (a % 10) - (b % 10)
    );
    const neighbours = order.length === 2 ? [null, ...order, null] : order;
    const widths = neighbours.map((tooth) => (tooth === null || toothKind(tooth) === 'molar' ? 10.6 : 7.2));
    let at = 17 - widths.reduce((a, b) => a + b + 0.15, 0) / 2 + shift + (jaw === 0 ? 0 : -1.4);
    return neighbours.map((tooth, i) => {
      const widthMm = widths[i] * (0.97 + 0.05 * random.uniform());
      const shape: ToothShape = {
        upper: jaw === 0,
        centerMm: at + widths[i] / 2,
        widthMm,
        molar: tooth === null || toothKind(tooth) === 'molar',
        pulpMm: 1.0 + 0.5 * random.uniform(),
        filling: null,
        decay: null
      };
      const luck = random.uniform();
      if (luck < 0.18)
        shape.filling = { fromMm: -0.24 * widthMm, toMm: 0.2 * widthMm, depthMm: 2.2 + random.uniform() };
      else if (luck < 0.3) shape.decay = { atMm: 0.47 * widthMm, sizeMm: 0.9 + 0.7 * random.uniform() };
      at += widths[i] + 0.15;
      return shape;
    });
  });
}

function addSoftTissue(depth: Float32Array, width: number, height: number, random: SeededRandom): void {
  const wave = valueNoise(random, 5, 4);
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const cheek = 14 + 4 * wave(x / width, y / height) - 2 * Math.exp(-(((y / height - 0.5) / 0.08) ** 2));
      depth[y * width + x] = cheek * perMm.soft;
    }
  }
}

/** Alveolar bone of both jaws: a scalloped crest between the teeth, trabeculae finer in the upper jaw. */
function addBone(
  depth: Float32Array,
  width: number,
  height: number,
  teeth: ToothShape[],
  random: SeededRandom
): void {
  for (const upper of [true, false]) {
    const fine = valueNoise(random, upper ? 70 : 48, upper ? 54 : 30);
    const coarse = valueNoise(random, 26, 20);
    const gaps = teeth.filter((t) => t.upper === upper).map((t) => t.centerMm);
    for (let x = 0; x < width; x++) {
      const mm = x * sensorPitchMm;
      const nearest = Math.min(...gaps.map((c) => Math.abs(c - mm)));
      const crest = crestFromCuspMm + 0.35 * Math.cos(nearest) + 0.25 * coarse(x / width, 0.5);
      for (let y = 0; y < height; y++) {
        const fromPlane = upper ? occlusalMm - y * sensorPitchMm : y * sensorPitchMm - occlusalMm;
        const into = fromPlane - crest;
        if (into <= 0) continue;
        const trabecular = fine(x / width, y / height) * 0.75 + coarse(x / width, y / height) * 0.6;
        const cortex = Math.exp(-((into / 0.35) ** 2)) * 2.2;
        depth[y * width + x] +=
          perMm.bone * Math.min(1, into / 0.25) * Math.max(1.5, 6.5 + 3.6 * trabecular + cortex);
      }
    }
  }
}

function addTooth(depth: Float32Array, width: number, height: number, tooth: ToothShape): void {
  const half = tooth.widthMm / 2;
  const left = Math.max(0, Math.floor((tooth.centerMm - half - 0.6) / sensorPitchMm));
  const right = Math.min(width - 1, Math.ceil((tooth.centerMm + half + 0.6) / sensorPitchMm));
  for (let y = 0; y < height; y++) {
    const t = (tooth.upper ? occlusalMm - y * sensorPitchMm : y * sensorPitchMm - occlusalMm) - 0.35;
    if (t < -0.2 || t > 21) continue;
    for (let x = left; x <= right; x++) {
      depth[y * width + x] += toothDepth(tooth, x * sensorPitchMm - tooth.centerMm, t);
    }
  }
}

/** Attenuation through a tooth at `u` mm from its axis and `t` mm from its cusps towards the root. */
function toothDepth(tooth: ToothShape, u: number, t: number): number {
  const half = tooth.widthMm / 2;
  const cusp =
    (tooth.molar ? 0.55 : 0.8) *
    (1 - Math.abs(Math.cos((Math.PI * u) / (tooth.molar ? half * 0.95 : half * 1.15))));
  const inside = t - cusp * 0.9;
  if (inside < 0) return 0;
  const outline = crossSection(tooth, u, t);
  if (!outline) return ligament(tooth, u, t);
  const { halfWidth, offset, depthMm } = outline;
  const share = Math.min(1, Math.abs(u - offset) / halfWidth);
  const chord = depthMm * Math.sqrt(1 - share * share);
  const edge = smooth(Math.min((1 - share) * halfWidth, inside) / 0.12);
  let total = chord * perMm.dentine;
  if (t < crownMm) {
    const fromSurface = Math.min((1 - share) * halfWidth, inside * 1.05);
    const thick = 1.55 * (1 - t / (crownMm * 1.08));
    total += (perMm.enamel - perMm.dentine) * depthMm * 1.05 * smooth((thick - fromSurface) / 0.3 + 0.5);
  }
  total -= pulp(tooth, u - offset, t, outline.root) * perMm.dentine;
  if (tooth.decay) {
    const d = Math.hypot(u - tooth.decay.atMm, (t - 3.6) * 0.8) / tooth.decay.sizeMm;
    total *= 1 - 0.42 * Math.exp(-d * d * 1.6);
  }
  if (tooth.filling && t < tooth.filling.depthMm && u > tooth.filling.fromMm && u < tooth.filling.toMm) {
    const rim = Math.min(u - tooth.filling.fromMm, tooth.filling.toMm - u, tooth.filling.depthMm - t);
    total += perMm.metal * 3 * smooth(rim / 0.1);
  }
  return total * edge;
}

function crossSection(tooth: ToothShape, u: number, t: number) {
  const half = tooth.widthMm / 2;
  const shoulder = t < 2 ? 1 - 0.2 * ((2 - t) / 2) ** 2.2 : 1;
  const bulge = (0.8 + 0.2 * Math.sin(Math.PI * Math.min(1, (t + 0.6) / (crownMm + 1.2)))) * shoulder;
  if (t <= crownMm + 1.6 || !tooth.molar) {
    const taper = t > crownMm ? Math.max(0.12, 1 - ((t - crownMm) / 14.5) ** 1.4) : 1;
    const halfWidth = half * bulge * taper;
    if (Math.abs(u) >= halfWidth) return null;
    return {
      halfWidth,
      offset: 0,
      depthMm: (tooth.molar ? 9.2 : 8) * (0.72 + 0.28 * bulge) * Math.sqrt(taper),
      root: 0
    };
  }
  const along = (t - crownMm - 1.6) / 11;
  const joined = 1 + 0.2 * Math.exp(-along * 9);
  for (const side of [-1, 1]) {
    const offset = side * half * (0.4 + 0.16 * along);
    const halfWidth = half * 0.43 * joined * Math.max(0.15, 1 - along ** 1.6);
    if (Math.abs(u - offset) < halfWidth)
      return { halfWidth, offset, depthMm: 7 * Math.max(0.2, 1 - along ** 2), root: side };
  }
  return null;
}

/** Just outside a root: the dark ligament space, then the bright lamina dura. */
function ligament(tooth: ToothShape, u: number, t: number): number {
  if (t < crestFromCuspMm + 0.3) return 0;
  const outwards = crossSection(tooth, u * 0.955 - Math.sign(u) * 0.16, t);
  const further = crossSection(tooth, u * 0.915 - Math.sign(u) * 0.2, t);
  if (outwards) return -perMm.bone * 2;
  return further ? perMm.bone * 2.4 : 0;
}

function pulp(tooth: ToothShape, u: number, t: number, root: number): number {
  if (root !== 0) return 1.5 * Math.max(0, 1 - (u / 0.42) ** 2);
  if (t < 3.1) return 0;
  const halfWidth =
    t < crownMm + 1.6
      ? tooth.pulpMm *
        (tooth.molar ? 1.35 : 0.62) *
        Math.sqrt(smooth((t - 3.1) / 2.6)) *
        (1 - 0.35 * smooth((t - 5) / 4))
      : 0.42;
  const share = Math.abs(u) / Math.max(0.01, halfWidth);
  return share < 1 ? 2.6 * Math.sqrt(1 - share * share) : 0;
}

function smooth(x: number): number {
  if (x <= 0) return 0;
  if (x >= 1) return 1;
  return x * x * (3 - 2 * x);
}

/** Smooth noise between -1 and 1 over the unit square, on a lattice of cells. */
function valueNoise(random: SeededRandom, columns: number, rows: number): (x: number, y: number) => number {
  const lattice = Float32Array.from({ length: (columns + 2) * (rows + 2) }, () => random.uniform() * 2 - 1);
  return (x, y) => {
    const cx = Math.min(columns, Math.max(0, x * columns));
    const cy = Math.min(rows, Math.max(0, y * rows));
    const ix = Math.floor(cx);
    const iy = Math.floor(cy);
    const fx = smooth(cx - ix);
    const fy = smooth(cy - iy);
    const at = iy * (columns + 2) + ix;
    const top = lattice[at] * (1 - fx) + lattice[at + 1] * fx;
    const below = lattice[at + columns + 2] * (1 - fx) + lattice[at + columns + 3] * fx;
    return top * (1 - fy) + below * fy;
  };
}

/** A box blur of 2r+1 along rows, then along columns; twice is close to a Gaussian. */
function blur(map: Float32Array, width: number, height: number, r: number): void {
  const line = new Float32Array(Math.max(width, height));
  const along = (start: number, step: number, count: number) => {
    let sum = 0;
    for (let i = -r; i <= r; i++) sum += map[start + Math.min(count - 1, Math.max(0, i)) * step];
    for (let i = 0; i < count; i++) {
      line[i] = sum / (2 * r + 1);
      sum += map[start + Math.min(count - 1, i + r + 1) * step] - map[start + Math.max(0, i - r) * step];
    }
    for (let i = 0; i < count; i++) map[start + i * step] = line[i];
  };
  for (let y = 0; y < height; y++) along(y * width, 1, width);
  for (let x = 0; x < width; x++) along(x, width, height);
}

/** Beer-Lambert, quantum noise on what reaches the sensor, then the logarithm back to a bright-is-dense picture. */
function exposed(depth: Float32Array, exposure: number, random: SeededRandom): Uint16Array {
  const quanta = 5200 * exposure;
  const out = new Uint16Array(depth.length);
  for (let i = 0; i < depth.length; i++) {
    const mean = quanta * Math.exp(-depth[i]);
    const caught = Math.max(1, mean + Math.sqrt(mean) * random.normal() + 2 * random.normal());
    const density = Math.log(quanta / caught);
    const value = 3200 + density * 19000;
    out[i] = value < 0 ? 0 : value > 65535 ? 65535 : value;
  }
  return out;
}
