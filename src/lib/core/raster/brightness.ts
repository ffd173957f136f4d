import { type Patch, type Window, patchOfRaster } from './patch';
import type { Raster } from './raster';

/** Shares of red, green and blue in what looks bright (ITU-R BT.601). */
const shares = [0.299, 0.587, 0.114];

/** The values of a grey picture, or how bright a colour picture is, in a window of it. */
export function brightness(raster: Raster, window?: Window): Patch {
  if (raster.channels === 1) return patchOfRaster(raster, window);
  const patches = shares.map((_, channel) => patchOfRaster(raster, window, channel));
  const [first] = patches;
  const data = new Float32Array(first.data.length);
  shares.forEach((share, channel) => {
    for (let i = 0; i < data.length; i++) data[i] += share * patches[channel].data[i];
  });
  return { ...first, data };
}
