import type { Raster } from '../../raster/raster';
import type { SeededRandom } from '../../random';
import { type Faults, beamShare, smeared } from './faults';
import { gaussianByMeans, wideGaussian } from './smooth';
import { latticeNoise } from './weave';

/** How a detector answers to what reaches it, and how its signal is turned into a picture to look at. */
export interface Detector {
  bits: number;
  /** X-ray quanta a pixel of a good exposure where nothing is in the way. */
  quanta: number;
  /** Standard deviation of what the focal spot and the detector spread together, in pixels. */
  spreadPx: number;
  /** Share of scattered rays in what reaches the detector behind the body, and how far they are smeared. */
  scatterShare: number;
  scatterPx: number;
  /** Read-out noise, in quanta. */
  readNoise: number;
  /** Gain differences between pixels, and between columns, that calibration left over: the same in every exposure. */
  fixedPattern: number;
  /** Which detector this is: another serial number has another fixed pattern. */
  serial: number;
  /** The well of a pixel holds this many times the quanta of a good unattenuated exposure. */
  fullWell: number;
  /** Attenuation (natural logarithm) that is shown as black, and as white. */
  black: number;
  white: number;
  /** Edges are lifted by this much over this many pixels. */
  crispness: number;
  crispPx: number;
  /** Large differences of density are evened out by this share, over this many pixels. */
  evening: number;
  eveningPx: number;
}

export const intraoralSensor: Detector = {
  bits: 16,
  quanta: 4200,
  spreadPx: 1.7,
  scatterShare: 0.07,
  scatterPx: 90,
  readNoise: 9,
  fixedPattern: 0.006,
  serial: 4711,
  fullWell: 1.35,
  black: 0.2,
  white: 2.55,
  crispness: 0.55,
  crispPx: 7,
  evening: 0.22,
  eveningPx: 130
};

export const flatPanel: Detector = {
  bits: 14,
  quanta: 5200,
  spreadPx: 0.85,
  scatterShare: 0.12,
  scatterPx: 160,
  readNoise: 7,
  fixedPattern: 0.005,
  serial: 815,
  fullWell: 1.6,
  black: 0.1,
  white: 3.6,
  crispness: 0.7,
  crispPx: 5,
  evening: 0.35,
  eveningPx: 140
};

/**
 * From attenuation to a picture, dense is bright: Beer-Lambert, the beam's limits, focal spot and scatter, quantum noise
 * (Poisson, as a normal of the same variance) and the detector's own; then the logarithm, edges lifted and large
 * differences evened out as presentation processing does. The noise of the logarithm falls with the square root of dose.
 * @param attenuation natural logarithm of what is lost, row by row; used up
 */
export function exposed(
  attenuation: Float32Array,
  width: number,
  height: number,
  detector: Detector,
  random: SeededRandom,
  faults: Faults = {}
): Raster {
  const caught = counted(attenuation, width, height, detector, random, faults);
  return {
    width,
    height,
    channels: 1,
    bitsStored: detector.bits,
    offset: 0,
    data: presented(caught, width, height, detector, faults, random)
  };
}

/** Quanta that each pixel counted, of a good exposure's `quanta` where nothing is in the way. Uses the map up. */
export function counted(
  attenuation: Float32Array,
  width: number,
  height: number,
  detector: Detector,
  random: SeededRandom,
  faults: Faults = {}
): Float32Array {
  const dose = faults.dose ?? 1;
  const beam = attenuation;
  for (let i = 0; i < beam.length; i++) beam[i] = Math.exp(-beam[i]);
  const open = beamShare(faults, 3 * detector.spreadPx);
  if (open)
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) beam[y * width + x] *= open(x, y);
  if (faults.motion) smeared(beam, width, height, faults.motion);
  const veil = detector.scatterShare > 0 ? wideGaussian(beam, width, height, detector.scatterPx) : null;
  gaussianByMeans(beam, width, height, detector.spreadPx);
  const well = detector.quanta * detector.fullWell;
  const readVariance = detector.readNoise ** 2;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const arriving = veil
        ? beam[i] * (1 - detector.scatterShare) + veil[i] * detector.scatterShare
        : beam[i];
      const mean = Math.max(0, arriving) * detector.quanta * dose;
      const fixedNoise = latticeNoise(x, y, 1, detector.serial) + latticeNoise(x, 0, 2, detector.serial);
      const gain = 1 + detector.fixedPattern * fixedNoise;
      beam[i] = Math.min(well, mean * gain + Math.sqrt(mean + readVariance) * random.normal());
    }
  }
  return beam;
}

function presented(
  caught: Float32Array,
  width: number,
  height: number,
  detector: Detector,
  faults: Faults,
  random: SeededRandom
): Uint16Array {
  const density = caught;
  for (let i = 0; i < density.length; i++) density[i] = Math.log(detector.quanta / Math.max(1, caught[i]));
  const local = density.slice();
  gaussianByMeans(local, width, height, detector.crispPx);
  const wide = wideGaussian(density, width, height, detector.eveningPx);
  const top = 2 ** detector.bits - 1;
  const scale = top / (detector.white - detector.black);
  const middle = (detector.white + detector.black) / 2;
  const ceiling = faults.clipAt === undefined ? top : top * faults.clipAt;
  const out = new Uint16Array(density.length);
  for (let i = 0; i < out.length; i++) {
    const crisp = density[i] + detector.crispness * (density[i] - local[i]);
    const evened = crisp - detector.evening * (wide[i] - middle);
    const value = (evened - detector.black) * scale;
    out[i] = value < 0 ? 0 : value > ceiling ? ceiling : value;
  }
  if (faults.clipAt !== undefined)
    for (let i = 0; i < out.length; i++) out[i] = Math.min(top, out[i] / faults.clipAt);
  for (let i = 0; i < (faults.scratches ?? 0); i++) scratch(out, width, height, top, random);
  for (let i = 0; i < (faults.droppedRows ?? 0); i++) {
    const y = Math.floor(random.uniform() * height);
    out.fill(0, y * width, (y + 1) * width);
  }
  return out;
}

/** A thin bright line that bends a little: phosphor that is gone. */
function scratch(out: Uint16Array, width: number, height: number, top: number, random: SeededRandom): void {
  let [x, y] = [random.uniform() * width, random.uniform() * height];
  let angle = random.uniform() * 2 * Math.PI;
  const steps = (0.1 + 0.3 * random.uniform()) * width;
  for (let i = 0; i < steps; i++) {
    x += Math.cos(angle);
    y += Math.sin(angle);
    angle += 0.01 * random.normal();
    for (const [dx, dy] of [
      [0, 0],
      [1, 0],
      [0, 1]
    ]) {
      const [px, py] = [Math.round(x) + dx, Math.round(y) + dy];
      if (px >= 0 && px < width && py >= 0 && py < height) out[py * width + px] = top;
    }
  }
}
