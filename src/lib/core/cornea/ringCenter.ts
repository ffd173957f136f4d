import { medianOf } from '../measurement/fit/linear';
import type { Point } from '../raster/orientation';
import type { Patch } from '../raster/patch';
import { type Edge, edgesAlong, meridians } from './ringEdges';
import { type RingTarget, mirroredRadiusPx } from './target';

/** Share of a ring's own step that an edge of the innermost ring has at least. */
const clearShare = 0.4;
/** Slopes (Sobel's, eight times the step of a pixel) below this are iris and skin. */
const leastSlope = 160;

/** Where the lines along strong slopes meet, by least squares with ever less weight for those that miss. */
export function centerOf(greys: Patch): Point | null {
  const { width, height, data } = greys;
  const reach = Math.round(Math.min(width, height) * 0.3);
  const [mx, my] = [width >> 1, height >> 1];
  // Four numbers a line: a place, and the direction across the slope there.
  const lines: number[] = [];
  for (let y = Math.max(2, my - reach); y < Math.min(height - 2, my + reach); y += 4) {
    for (let x = Math.max(2, mx - reach); x < Math.min(width - 2, mx + reach); x += 4) {
      const at = y * width + x;
      const [up, down] = [at - width, at + width];
      const gx =
        2 * (data[at + 1] - data[at - 1]) + data[up + 1] - data[up - 1] + data[down + 1] - data[down - 1];
      const gy = 2 * (data[down] - data[up]) + data[down + 1] - data[up + 1] + data[down - 1] - data[up - 1];
      const squared = gx * gx + gy * gy;
      if (squared < leastSlope ** 2) continue;
      const slope = Math.sqrt(squared);
      lines.push(x + 0.5, y + 0.5, -gy / slope, gx / slope);
    }
  }
  const count = lines.length / 4;
  if (count < 60) return null;
  let center = { x: mx, y: my };
  for (let round = 0; round < 12; round++) {
    const scale = Math.max(3, 60 * 0.65 ** round);
    // Outer rings of an uneven cornea have other centres: the inner ones decide in the end.
    const reachPx = Math.max(70, 400 * 0.75 ** round);
    let [a, b, c, p, q] = [0, 0, 0, 0, 0];
    for (let k = 0; k < lines.length; k += 4) {
      const [x, y, nx, ny] = [lines[k], lines[k + 1], lines[k + 2], lines[k + 3]];
      const [dx, dy] = [x - center.x, y - center.y];
      const off = nx * dx + ny * dy;
      const away = (dx * dx + dy * dy) / reachPx ** 2;
      const w = 1 / ((1 + (off / scale) ** 2) * (1 + away * away));
      const along = nx * x + ny * y;
      a += w * nx * nx;
      b += w * nx * ny;
      c += w * ny * ny;
      p += w * nx * along;
      q += w * ny * along;
    }
    const det = a * c - b * b;
    if (!(det > 1e-9)) return null;
    center = { x: (c * p - b * q) / det, y: (a * q - b * p) / det };
  }
  if (center.x < 20 || center.y < 20 || center.x > width - 20 || center.y > height - 20) return null;
  let agreeing = 0;
  for (let k = 0; k < lines.length; k += 4) {
    const [dx, dy] = [lines[k] - center.x, lines[k + 1] - center.y];
    if (Math.abs(lines[k + 2] * dx + lines[k + 3] * dy) < 4 + 0.08 * Math.sqrt(dx * dx + dy * dy)) agreeing++;
  }
  return agreeing > 0.35 * count ? center : null;
}

/**
 * The two edges of the innermost ring: dark inside, bright, dark again. Its radius for an ordinary cornea follows from
 * the target (a mirror of 7.8 mm halves angles), and half and twice of it are allowed.
 */
export function innermost(
  greys: Patch,
  start: Point,
  target: RingTarget
): { center: Point; radii: [Float64Array, Float64Array] } | null {
  const expected = mirroredRadiusPx(target, 0);
  let center = start;
  for (let round = 0; round < 3; round++) {
    const inner = new Float64Array(meridians).fill(NaN);
    const outer = new Float64Array(meridians).fill(NaN);
    const lines = Array.from({ length: meridians }, (_, m) =>
      edgesAlong(greys, center, (2 * Math.PI * m) / meridians, Math.max(2, expected * 0.35), expected * 2.2)
    );
    // The pupil's edge and specks in the dark middle rise too, but less.
    const clear = clearShare * medianOf(lines.map((edges) => Math.max(0, ...edges.map(({ step }) => step))));
    const isRise = ({ rising, step }: Edge) => rising && step > clear;
    const middle = medianOf(lines.flatMap((edges) => edges.find(isRise)?.r ?? []));
    lines.forEach((edges, m) => {
      const rise = edges.findIndex((edge) => isRise(edge) && Math.abs(edge.r - middle) < 0.3 * middle);
      if (rise < 0) return;
      inner[m] = edges[rise].r;
      const fall = edges.slice(rise).find(({ rising }) => !rising);
      if (fall) outer[m] = fall.r;
    });
    const seen = inner.filter((r) => !Number.isNaN(r)).length;
    if (seen < meridians * 0.45) return null;
    if (round === 2) return { center, radii: [inner, outer] };
    let [dx, dy, n] = [0, 0, 0];
    inner.forEach((r, m) => {
      const other = inner[(m + meridians / 2) % meridians];
      if (Number.isNaN(r) || Number.isNaN(other)) return;
      const a = (2 * Math.PI * m) / meridians;
      dx += (r - other) * Math.cos(a);
      dy += (r - other) * Math.sin(a);
      n++;
    });
    if (n > 20) center = { x: center.x + dx / n, y: center.y + dy / n };
  }
  return null;
}
