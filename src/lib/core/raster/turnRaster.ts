import { type Orientation, orientedSize, toImage, toOriented } from './orientation';
import type { Raster } from './raster';

/**
 * The samples moved to where an orientation shows them, any channels: exact where it has no tilt. With one they are worked
 * out from the four nearest, in square pixels, and what lies outside the picture is 0.
 * @param pixelAspect how much taller than wide a pixel is; without a tilt pixels stay as they are
 */
export function turnRaster(source: Raster, orientation: Orientation, pixelAspect = 1): Raster {
  if (orientation.tiltDeg) return tiltRaster(source, orientation, pixelAspect);
  const { width, height, channels, data } = source;
  if (orientation.quarterTurns === 0 && !orientation.mirrored) return { ...source, data: data.slice() };
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

function tiltRaster(source: Raster, orientation: Orientation, pixelAspect: number): Raster {
  const { width, height, channels, data } = source;
  const size = { width, height, pixelAspect };
  const seen = orientedSize(size, orientation);
  const out = { width: Math.max(1, Math.round(seen.width)), height: Math.max(1, Math.round(seen.height)) };
  const samples = out.width * out.height * channels;
  const turned = data instanceof Uint16Array ? new Uint16Array(samples) : new Uint8Array(samples);
  // What is seen is spread over whole pixels.
  const at = (x: number, y: number) =>
    toImage({ x: (x * seen.width) / out.width, y: (y * seen.height) / out.height }, size, orientation);
  const [first, right, below] = [at(0.5, 0.5), at(1.5, 0.5), at(0.5, 1.5)];
  const across = { x: right.x - first.x, y: right.y - first.y };
  const down = { x: below.x - first.x, y: below.y - first.y };
  for (let y = 0, to = 0; y < out.height; y++) {
    let px = first.x + y * down.x;
    let py = first.y + y * down.y;
    for (let x = 0; x < out.width; x++, px += across.x, py += across.y, to += channels) {
      if (px < 0 || py < 0 || px > width || py > height) continue;
      const [ix, iy] = [Math.floor(px - 0.5), Math.floor(py - 0.5)];
      const [u, v] = [px - 0.5 - ix, py - 0.5 - iy];
      const [x0, x1] = [Math.max(0, ix), Math.min(width - 1, ix + 1)];
      const [y0, y1] = [Math.max(0, iy) * width, Math.min(height - 1, iy + 1) * width];
      for (let c = 0; c < channels; c++) {
        const upper = (1 - u) * data[(y0 + x0) * channels + c] + u * data[(y0 + x1) * channels + c];
        const lower = (1 - u) * data[(y1 + x0) * channels + c] + u * data[(y1 + x1) * channels + c];
        turned[to + c] = Math.round((1 - v) * upper + v * lower);
      }
    }
  }
  return { ...source, ...out, data: turned };
}

/** The orientation that takes back what another did. */
export function inverse(orientation: Orientation): Orientation {
  if (orientation.mirrored) return orientation;
  const { quarterTurns, tiltDeg } = orientation;
  return {
    quarterTurns: ((4 - quarterTurns) % 4) as Orientation['quarterTurns'],
    mirrored: false,
    ...(tiltDeg ? { tiltDeg: -tiltDeg } : {})
  };
}
