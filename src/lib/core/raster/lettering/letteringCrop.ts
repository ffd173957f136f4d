import type { Raster } from '../raster';
import type { LetteringBox } from './findLettering';
import { type Plane, extreme } from './plane';

/** Letters are read best at about this height of their line, in pixels. */
const lineHeightPx = 48;
const mostScale = 6;
const longestPx = 2_400;

/** A line of writing cut out for reading: 8 bit, dark on bright, level, with a rim. */
export interface LetteringCrop {
  data: Uint8Array;
  width: number;
  height: number;
  /** How much larger it has to be made, or smaller, so that its letters are as high as they are read best. */
  scale: number;
}

/** Letters are taken from the ground they lie over by windows of this share of their line's height: wider than a stroke. */
const groundShare = 0.55;

/**
 * A line of writing as it is read: taken from the ground it lies over, dark on bright, turned level.
 * @param turn quarter turns clockwise that make it level: 0, 1 or 3
 * @param ink whether the letters are brighter or darker than what they lie over
 */
export function letteringCrop(
  { data, width, height, channels }: Raster,
  { left, top, width: boxWidth, height: boxHeight }: Pick<LetteringBox, 'left' | 'top' | 'width' | 'height'>,
  turn: 0 | 1 | 3,
  ink: 'bright' | 'dark'
): LetteringCrop {
  const line = turn === 0 ? boxHeight : boxWidth;
  const rim = Math.max(4, Math.round(0.25 * line));
  const [x0, y0] = [Math.max(0, left - rim), Math.max(0, top - rim)];
  const [x1, y1] = [Math.min(width, left + boxWidth + rim), Math.min(height, top + boxHeight + rim)];
  const [w, h] = [x1 - x0, y1 - y0];
  const grey = new Float32Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const at = ((y0 + y) * width + x0 + x) * channels;
      let most = data[at];
      for (let c = 1; c < channels; c++) most = Math.max(most, data[at + c]);
      grey[y * w + x] = most;
    }
  const lifted = overGround({ data: grey, steps: grey, width: w, height: h }, line, ink);
  const high = Math.max(1, Float32Array.from(lifted).sort()[Math.ceil(0.98 * lifted.length) - 1]);
  const [outWidth, outHeight] = turn === 0 ? [w, h] : [h, w];
  const out = new Uint8Array(w * h);
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const to = turn === 0 ? y * w + x : turn === 1 ? x * h + (h - 1 - y) : (w - 1 - x) * h + y;
      out[to] = Math.round(255 * (1 - Math.min(1, lifted[y * w + x] / high)));
    }
  const scale = Math.min(mostScale, lineHeightPx / line, longestPx / outWidth);
  return { data: out, width: outWidth, height: outHeight, scale };
}

/** How much each pixel stands out from what lies around it, by an opening or a closing wider than a stroke (a top-hat). */
function overGround(plane: Plane, line: number, ink: 'bright' | 'dark'): Float32Array {
  const size = Math.max(5, Math.round(groundShare * line) | 1);
  const bright = ink === 'bright';
  const ground = extreme(extreme(plane, size, !bright), size, bright).data;
  return Float32Array.from(plane.data, (value, i) =>
    Math.max(0, bright ? value - ground[i] : ground[i] - value)
  );
}
