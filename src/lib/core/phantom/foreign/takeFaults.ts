import type { SeededRandom } from '../../random';
import type { Raster } from '../../raster/raster';
import { type Imaging, type ImagingFaults, type Transfer, anyImaging, imaged } from './imaging';

export type TakeFault =
  'none' | 'under-exposed' | 'over-exposed' | 'nothing exposed' | 'moved' | 'edge cut off';

/**
 * A take of a map of attenuation by a detector of any make, with one fault. Over-exposed ones are in fixed windows: a
 * window that is set after the exposure hides what was too much, and nothing is wrong with them.
 */
export function takeOfAnyMake(
  { map, width, height }: { map: Float32Array; width: number; height: number },
  transfer: Transfer,
  fault: TakeFault,
  random: SeededRandom
): Raster {
  const any = (low: number, high: number) => low + (high - low) * random.uniform();
  const fixed: Partial<Imaging> = { denseBright: true, grid: 0, counts: 10 ** any(3.3, 4.2) };
  if (fault === 'over-exposed') fixed.window = { kind: 'whole' };
  const imaging = anyImaging(transfer, random, fixed);
  return imaged(map.slice(), width, height, imaging, random, faultsOf(fault, width, height, any));
}

/** A fault in one of its sizes. */
export function faultsOf(
  fault: TakeFault,
  width: number,
  height: number,
  any: (low: number, high: number) => number
): ImagingFaults {
  switch (fault) {
    case 'none':
      return { dose: any(0.8, 1.2) };
    case 'under-exposed':
      return { dose: any(0.06, 0.15) };
    case 'over-exposed':
      return { dose: any(4, 8) };
    case 'nothing exposed':
      return { dose: 0 };
    case 'moved': {
      const length = any(14, 30);
      const way = any(0, Math.PI);
      const count = Math.ceil(length) + 1;
      return {
        path: Array.from({ length: count }, (_, i) => {
          const along = length * (i / (count - 1) - 0.5);
          return { x: along * Math.cos(way), y: along * Math.sin(way) };
        })
      };
    }
    case 'edge cut off': {
      const way = any(0, 2 * Math.PI);
      const [c, s] = [Math.cos(way), Math.sin(way)];
      const [x0, y0] = [width * (0.5 + 0.28 * c), height * (0.5 + 0.28 * s)];
      return { beam: (x, y) => Math.min(1, Math.max(0.004, 0.5 - ((x - x0) * c + (y - y0) * s) / 5)) };
    }
  }
}
