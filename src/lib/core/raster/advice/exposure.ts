import type { Patch } from '../patch';
import type { Raster } from '../raster';
import { histogram, percentile } from '../statistics';
import { reducedTo } from '../reduced';
import { deviationAt, deviationOf, noiseCurve, secondDifference } from '../noise';

/** What lies at an end of a picture's range. */
export interface RangeEnd {
  /** Share of the picture at the very last value. */
  share: number;
  /** Share of it in the sixteenth of the range before. */
  beside: number;
}

/** What noise and signal say of an exposure, whatever the maker made of the greys. */
export interface Exposure {
  /**
   * From the greys of what lets most through to those of what lets least, counted in steps of the noise there. Counted
   * rays scatter by their root, so this is twice the difference of the roots of the counts: it grows with the root of
   * the dose and with nothing that is done to the greys after. Null where noise is too weak to be seen.
   */
  span: number | null;
  /** Greys go as the logarithm of the rays: noise is stronger where less arrives. */
  logarithmic: boolean;
  /** The greys were spread over the whole range after the exposure, so that they say nothing of it. */
  automatic: boolean;
  dark: RangeEnd;
  light: RangeEnd;
}

/** A picture that uses less than half of the range it names was stored with fewer bits: as many as its values need. */
export function asShown(raster: Raster): Raster {
  let greatest = 0;
  for (let i = 0; i < raster.data.length; i++) if (raster.data[i] > greatest) greatest = raster.data[i];
  const needed = Math.max(8, Math.ceil(Math.log2(greatest + 1)));
  return needed < raster.bitsStored ? { ...raster, bitsStored: needed } : raster;
}

/** The same picture with dark and light in each other's place. */
export function darkForLight(raster: Raster): Raster {
  const top = 2 ** raster.bitsStored - 1;
  return { ...raster, data: raster.data.map((value) => top - value) };
}

const endShare = 1 / 16;

export function exposureOf(raster: Raster, patch: Patch): Exposure {
  const counts = histogram(raster);
  const pixels = raster.data.length;
  let least = 0;
  while (counts[least] === 0) least++;
  let greatest = counts.length - 1;
  while (counts[greatest] === 0) greatest--;
  const beside = Math.max(1, Math.round((greatest - least) * endShare));
  const near = Math.max(1, Math.round((greatest - least) * 0.0001));
  const share = (from: number, to: number) => {
    let sum = 0;
    for (let value = Math.max(0, from); value <= Math.min(counts.length - 1, to); value++)
      sum += counts[value];
    return sum / pixels;
  };
  const dark = { share: share(least, least + near), beside: share(least + near + 1, least + beside) };
  const light = {
    share: share(greatest - near, greatest),
    beside: share(greatest - beside, greatest - near - 1)
  };
  const top = counts.length - 1;
  const curve = noiseCurve(patch);
  let span: number | null = null;
  let logarithmic = false;
  if (curve) {
    const low = percentile(counts, 0.01);
    const high = percentile(counts, 0.99);
    span = 0;
    const steps = 60;
    for (let i = 0; i < steps; i++)
      span += (high - low) / steps / deviationAt(curve, low + ((i + 0.5) / steps) * (high - low));
    const third = (high - low) / 3;
    logarithmic =
      deviationAt(curve, high - 0.5 * third) > risesBy * deviationAt(curve, low + 0.5 * third) &&
      light.share < 0.3;
  }
  const whole = least <= 0.004 * top && greatest >= 0.996 * top;
  return { span, logarithmic, automatic: whole && dark.share < 0.01 && light.share < 0.01, dark, light };
}

/** Logarithmic greys are noisier by this where they are lighter. */
const risesBy = 1.25;

const cells = 20;
/** A tilt and a bend of the beam over the whole field are no structure. */
const structureOverNoise = 24;
/** The coarse picture of something differs from place to place by more than this share of its own greys' range. */
const leastStructure = 0.03;
/** Nor by less than this share of all greys, where the range's end hides the noise. */
const leastOfTop = 0.002;

/**
 * Whether a picture shows nothing: what is left of it after its noise is averaged away, and a smooth tilt with it, is no
 * more than averaging leaves of noise. An automatic window makes noise look like greys, but not like shapes.
 */
export function showsNothing(patch: Patch, top: number): boolean {
  const { width, height, data } = patch;
  if (width < 2 * cells || height < 2 * cells) return false;
  const { small: coarse, factor } = reducedTo(patch, 2 * cells);
  const offs: number[] = [];
  const stride = Math.max(1, Math.floor(Math.sqrt((width * height) / 12_000)));
  for (let y = 1; y < height - 1; y += stride)
    for (let x = 1; x < width - 1; x += stride)
      offs.push(Math.abs(secondDifference(data, y * width + x, width)));
  offs.sort((a, b) => a - b);
  const noise = Math.max(deviationOf(offs[offs.length >> 1]), 0.5);
  const bent = withoutTilt(coarse);
  bent.sort();
  const spread = bent[Math.floor(0.97 * (bent.length - 1))] - bent[Math.floor(0.03 * bent.length)];
  const sampled = data.filter((_, i) => i % 97 === 0).sort();
  const range =
    sampled[Math.floor(0.998 * (sampled.length - 1))] - sampled[Math.floor(0.002 * sampled.length)];
  return spread < Math.max((structureOverNoise * noise) / factor, leastStructure * range, leastOfTop * top);
}

/** What is left when the best plane through all is taken away. */
function withoutTilt({ data, width, height }: Patch): Float64Array {
  let [mean, across, down] = [0, 0, 0];
  let [xx, yy] = [0, 0];
  const [mx, my] = [(width - 1) / 2, (height - 1) / 2];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const value = data[y * width + x];
      mean += value / (width * height);
      across += value * (x - mx);
      down += value * (y - my);
      xx += (x - mx) ** 2;
      yy += (y - my) ** 2;
    }
  return Float64Array.from(data, (value, i) => {
    const x = i % width;
    const y = (i - x) / width;
    return value - mean - (across / xx) * (x - mx) - (down / yy) * (y - my);
  });
}
