import { type SeededRandom, anyBetween } from '../../random';
import type { Raster } from '../../raster/raster';
import { gaussianByMeans, wideGaussian } from '../xray/smooth';

/** How a maker turns what its detector counted into greys. */
export type Transfer = 'linear' | 'logarithmic' | 'curved' | 'root';

/** A detector and the processing behind it, of no one in particular: every part can be otherwise. */
export interface Imaging {
  transfer: Transfer;
  /** Whether what takes rays away is shown bright. */
  denseBright: boolean;
  /** Standard deviations of the focal spot's and the detector's spread; the second with longer tails. */
  focalPx: number;
  detectorPx: number;
  /** Counts in the open beam, and read-out noise in counts. */
  counts: number;
  readNoise: number;
  /** Share of scattered rays behind a body, and how wide they are spread. */
  scatter: number;
  scatterPx: number;
  /** Edges lifted by so much over so many pixels; 0 for not at all. */
  lift: number;
  liftPx: number;
  /** Lines of a grid: depth as a share, and pixels from one to the next. */
  grid: number;
  gridPx: number;
  /** The greys' range: shares of pixels cut at either end, or the whole signal range of the detector. */
  window: { kind: 'automatic'; low: number; high: number } | { kind: 'whole' };
  bits: number;
  /** Stored in so many bits: 12 bits of signal in a file that says 16. */
  bitsStored: number;
}

/** One imaging chain of a family, everything else left to chance. */
export function anyImaging(transfer: Transfer, random: SeededRandom, fixed: Partial<Imaging> = {}): Imaging {
  const bits = [8, 10, 12, 14, 16][Math.floor(5 * random.uniform())];
  const automatic = random.uniform() < 0.6;
  const clipped = () => (random.uniform() < 0.75 ? 0 : anyBetween(random, 0, 0.002));
  return {
    transfer,
    denseBright: random.uniform() < 0.75,
    focalPx: anyBetween(random, 0.1, 1.2),
    detectorPx: anyBetween(random, 0.4, 1.3),
    counts: 10 ** anyBetween(random, 2.9, 4.5),
    readNoise: anyBetween(random, 2, 8),
    scatter: anyBetween(random, 0.02, 0.35),
    scatterPx: anyBetween(random, 60, 250),
    lift: random.uniform() < 0.45 ? anyBetween(random, 0.2, 1.2) : 0,
    liftPx: anyBetween(random, 1.5, 7),
    grid: random.uniform() < 0.2 ? anyBetween(random, 0.004, 0.015) : 0,
    gridPx: anyBetween(random, 2.3, 7),
    window: automatic ? { kind: 'automatic', low: clipped(), high: clipped() } : { kind: 'whole' },
    bits,
    bitsStored: random.uniform() < 0.3 ? 16 : bits,
    ...fixed
  };
}

/** What goes wrong before the detector. */
export interface ImagingFaults {
  /** Times the ordinary exposure. */
  dose?: number;
  /** How much of the beam gets through at a pixel, 0 to 1. */
  beam?: (x: number, y: number) => number;
  /** Displacements of the patient in pixels during the exposure; each the same time. */
  path?: readonly { x: number; y: number }[];
  /** This share of the picture, where least arrives, is beyond the converter's range. */
  clipAt?: number;
  /** The fog of light or of age on a plate, in shares of the open beam. */
  fog?: number;
}

/** A picture of a map of attenuation. The map is used up. */
export function imaged(
  map: Float32Array,
  width: number,
  height: number,
  imaging: Imaging,
  random: SeededRandom,
  { dose = 1, beam, path, clipAt, fog = 0 }: ImagingFaults = {}
): Raster {
  const signal = map;
  for (let i = 0; i < signal.length; i++) signal[i] = Math.exp(-signal[i]);
  if (path) moved(signal, width, height, path);
  if (beam)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) signal[y * width + x] *= beam(x + 0.5, y + 0.5);
  const veil = imaging.scatter > 0 ? wideGaussian(signal, width, height, imaging.scatterPx) : null;
  gaussianByMeans(signal, width, height, imaging.focalPx);
  // A narrow core and a wider skirt: no Gaussian.
  const skirt = signal.slice();
  gaussianByMeans(signal, width, height, imaging.detectorPx * 0.85);
  gaussianByMeans(skirt, width, height, imaging.detectorPx * 1.7);
  for (let i = 0; i < signal.length; i++) signal[i] = 0.82 * signal[i] + 0.18 * skirt[i];
  if (veil)
    for (let i = 0; i < signal.length; i++)
      signal[i] = (1 - imaging.scatter) * signal[i] + imaging.scatter * veil[i];
  const { counts, readNoise } = imaging;
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const grid = 1 - imaging.grid * (1 + Math.sin((2 * Math.PI * x) / imaging.gridPx));
      const mean = (signal[i] + fog) * counts * dose * grid;
      signal[i] = Math.max(0, mean + Math.sqrt(mean + readNoise * readNoise) * random.normal()) / counts;
    }
  }
  if (clipAt !== undefined) clippedAt(signal, clipAt);
  answered(signal, imaging);
  if (imaging.lift > 0) {
    const wide = signal.slice();
    gaussianByMeans(wide, width, height, imaging.liftPx);
    for (let i = 0; i < signal.length; i++) signal[i] += imaging.lift * (signal[i] - wide[i]);
  }
  return stored(signal, width, height, imaging);
}

/** A converter whose range was set too small: it does not reach down to what the dense parts let through. */
function clippedAt(signal: Float32Array, share: number): void {
  const sorted = Float32Array.from(signal.filter((_, i) => i % 11 === 0)).sort();
  const least = sorted[Math.floor(sorted.length * share)];
  for (let i = 0; i < signal.length; i++) if (signal[i] < least) signal[i] = least;
}

/** The signal as greys from 0 to about 1, more where less is taken away. */
function answered(signal: Float32Array, { transfer, counts }: Imaging): void {
  const least = 1 / counts;
  const of: Record<Transfer, (value: number) => number> = {
    linear: (v) => v,
    root: (v) => Math.sqrt(v),
    logarithmic: (v) => 1 + Math.log(Math.max(v, least)) / Math.log(counts),
    curved: (v) => v ** 1.3 / (v ** 1.3 + 0.22 ** 1.3)
  };
  const answer = of[transfer];
  for (let i = 0; i < signal.length; i++) signal[i] = answer(signal[i]);
}

function stored(signal: Float32Array, width: number, height: number, imaging: Imaging): Raster {
  const { window, bits, bitsStored, denseBright, transfer } = imaging;
  let low = 0;
  let high = transfer === 'curved' ? 0.9 : 1.15;
  if (window.kind === 'automatic') {
    const sorted = Float32Array.from(signal.filter((_, i) => i % 7 === 0)).sort();
    low = sorted[Math.floor(sorted.length * window.low)];
    high = sorted[Math.floor((sorted.length - 1) * (1 - window.high))];
    if (!(high > low)) high = low + 1e-3;
  }
  const top = 2 ** bits - 1;
  const data = bitsStored > 8 ? new Uint16Array(signal.length) : new Uint8Array(signal.length);
  for (let i = 0; i < signal.length; i++) {
    const share = Math.min(1, Math.max(0, (signal[i] - low) / (high - low)));
    data[i] = Math.round(top * (denseBright ? 1 - share : share));
  }
  return { width, height, channels: 1, bitsStored, offset: 0, data };
}

/** The mean of copies moved along a path, in fractions of pixels. In place. */
function moved(
  map: Float32Array,
  width: number,
  height: number,
  path: readonly { x: number; y: number }[]
): void {
  const before = map.slice();
  map.fill(0);
  for (const step of path) {
    const [ix, iy] = [Math.floor(step.x), Math.floor(step.y)];
    const [u, v] = [step.x - ix, step.y - iy];
    const weights = [(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v];
    for (let y = 0; y < height; y++) {
      const y0 = Math.min(height - 1, Math.max(0, y + iy)) * width;
      const y1 = Math.min(height - 1, Math.max(0, y + iy + 1)) * width;
      for (let x = 0; x < width; x++) {
        const x0 = Math.min(width - 1, Math.max(0, x + ix));
        const x1 = Math.min(width - 1, Math.max(0, x + ix + 1));
        map[y * width + x] +=
          (weights[0] * before[y0 + x0] +
            weights[1] * before[y0 + x1] +
            weights[2] * before[y1 + x0] +
            weights[3] * before[y1 + x1]) /
          path.length;
      }
    }
  }
}
