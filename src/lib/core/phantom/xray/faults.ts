import type { Point } from '../../raster/orientation';

/** What can go wrong with an exposure, on demand. */
export interface Faults {
  /** Exposure as a multiple of a good one; 0 is nothing exposed. */
  dose?: number;
  /** The beam's limits, in image pixels: a round tube's rim or one straight edge. Outside only scatter arrives. */
  cutOff?:
    | { kind: 'round'; center: Point; radiusPx: number }
    | { kind: 'straight'; through: Point; towardsDeg: number };
  /** The patient moved: length and direction of the smear on the detector. */
  motion?: { lengthPx: number; directionDeg: number };
  /** The converter's range was set too small: what is above this share of the full range is lost. */
  clipAt?: number;
  /** Scratches of a phosphor plate. */
  scratches?: number;
  /** Rows that the reader dropped. */
  droppedRows?: number;
}

/** How much of the beam gets through at a pixel, 0 to 1, with the focal spot's half-shadow. */
export function beamShare(faults: Faults, penumbraPx: number): ((x: number, y: number) => number) | null {
  const { cutOff } = faults;
  if (!cutOff) return null;
  const ramp = (insidePx: number) => Math.min(1, Math.max(0, 0.5 + insidePx / (2 * penumbraPx)));
  if (cutOff.kind === 'round') {
    const { center, radiusPx } = cutOff;
    return (x, y) => ramp(radiusPx - Math.hypot(x + 0.5 - center.x, y + 0.5 - center.y));
  }
  const angle = (cutOff.towardsDeg * Math.PI) / 180;
  const [nx, ny] = [Math.cos(angle), Math.sin(angle)];
  const { through } = cutOff;
  return (x, y) => ramp((through.x - x - 0.5) * nx + (through.y - y - 0.5) * ny);
}

/** Smears a map along a direction by as many evenly spaced copies as there are pixels on the way. In place. */
export function smeared(
  map: Float32Array,
  width: number,
  height: number,
  { lengthPx, directionDeg }: { lengthPx: number; directionDeg: number }
): void {
  const angle = (directionDeg * Math.PI) / 180;
  const count = Math.max(2, Math.ceil(lengthPx) + 1);
  const steps = Array.from({ length: count }, (_, i) => {
    const along = lengthPx * (i / (count - 1) - 0.5);
    return { x: Math.round(along * Math.cos(angle)), y: Math.round(along * Math.sin(angle)) };
  });
  const before = map.slice();
  map.fill(0);
  for (const step of steps) {
    for (let y = 0; y < height; y++) {
      const from = Math.min(height - 1, Math.max(0, y + step.y)) * width;
      for (let x = 0; x < width; x++)
        map[y * width + x] += before[from + Math.min(width - 1, Math.max(0, x + step.x))] / count;
    }
  }
}
