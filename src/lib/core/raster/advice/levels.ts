import { histogram, percentile } from '../statistics';
import type { Raster } from '../raster';

/** How the greys of a take are spread, as shares of the full range. */
export interface Levels {
  /** A tenth, half and nine tenths of the pixels are darker than these. */
  dark: number;
  middle: number;
  light: number;
  /** Share of pixels at the very bottom, and at the greatest value that occurs. */
  atBottom: number;
  atGreatest: number;
  greatest: number;
}

export function levelsOf(raster: Raster): Levels {
  if (raster.channels !== 1) throw new RangeError('exposure is told of grey pictures only');
  const counts = histogram(raster);
  let greatest = counts.length - 1;
  while (greatest > 0 && counts[greatest] === 0) greatest--;
  const top = counts.length - 1;
  const near = Math.max(1, Math.round(top * 0.0001));
  let atGreatest = 0;
  for (let value = Math.max(0, greatest - near); value <= greatest; value++) atGreatest += counts[value];
  return {
    dark: percentile(counts, 0.1) / top,
    middle: percentile(counts, 0.5) / top,
    light: percentile(counts, 0.9) / top,
    atBottom: counts[0] / raster.data.length,
    atGreatest: atGreatest / raster.data.length,
    greatest: greatest / top
  };
}

/**
 * What is usual for a device and kind of view: in good takes the darkest tenth ends within these, and no more than so
 * much is altogether black.
 */
export interface ExposureNorm {
  dark: { low: number; high: number };
  mostBlack: number;
}

/** What is usual is not known: neither too much nor too little is told by greys alone. */
export const anyExposure: ExposureNorm = { dark: { low: 0, high: 1 }, mostBlack: 1 };

/** Learned from good takes of the intraoral sensor that ships: their darkest tenth ends at 4 to 10 % of the range. */
export const intraoralNorm: ExposureNorm = { dark: { low: 0.01, high: 0.27 }, mostBlack: 0.28 };
