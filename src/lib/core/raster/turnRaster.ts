import { type Orientation, orientedSize, toOriented } from './orientation';
import type { Raster } from './raster';

/** The samples moved to where an orientation shows them: exact, for eight orientations, any channels. */
export function turnRaster(source: Raster, orientation: Orientation): Raster {
  const { width, height, channels, data } = source;
  const size = orientedSize(source, orientation);
  const out = data instanceof Uint16Array ? new Uint16Array(data.length) : new Uint8Array(data.length);
  const first = toOriented({ x: 0.5, y: 0.5 }, source, orientation);
  const nextX = toOriented({ x: 1.5, y: 0.5 }, source, orientation);
  const nextY = toOriented({ x: 0.5, y: 1.5 }, source, orientation);
  const index = (p: { x: number; y: number }) => (Math.floor(p.y) * size.width + Math.floor(p.x)) * channels;
  const start = index(first);
  const stepX = (nextX.x - first.x + (nextX.y - first.y) * size.width) * channels;
  const stepY = (nextY.x - first.x + (nextY.y - first.y) * size.width) * channels;
  let from = 0;
  for (let y = 0; y < height; y++) {
    let to = start + y * stepY;
    for (let x = 0; x < width; x++, to += stepX) {
      for (let c = 0; c < channels; c++) out[to + c] = data[from++];
    }
  }
  return { ...source, ...size, data: out };
}

/** The orientation that takes back what another did. */
export function inverse(orientation: Orientation): Orientation {
  if (orientation.mirrored) return orientation;
  return {
    quarterTurns: ((4 - orientation.quarterTurns) % 4) as Orientation['quarterTurns'],
    mirrored: false
  };
}
