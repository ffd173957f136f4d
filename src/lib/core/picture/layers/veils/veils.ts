import { z } from 'zod';
import { type Area, around, overlap } from '../../../raster/area';
import type { Raster } from '../../../raster/raster';
import { layerKind } from '../layerKind';

/** Whole pixels of the picture as it was stored. */
const area = {
  left: z.number().int().min(0).max(100_000),
  top: z.number().int().min(0).max(100_000),
  width: z.number().int().min(1).max(100_000),
  height: z.number().int().min(1).max(100_000)
};
const veil = z.strictObject({
  ...area,
  /** Frames that it lies on, counted from 0; all of them where it names none. */
  frames: z.array(z.number().int().min(0).max(10_000)).max(2_000).optional()
});
export type Veil = z.infer<typeof veil>;

const schema = z.strictObject({
  veils: z.array(veil).max(200),
  /** Only this is kept of each frame, for a notice that stands along an edge; null for all of it. */
  only: z.strictObject(area).nullable(),
  /** Whether somebody has looked, and says that with these veils no name, number or face stands in the picture. */
  looked: z.boolean()
});
export type Veils = z.infer<typeof schema>;

export const noVeils: Veils = { veils: [], only: null, looked: false };

/** Areas that are masked out of a picture when it leaves without its identity. The picture here stays as it is. */
export const veilsLayer = layerKind<'veils', Veils>({
  kind: 'veils',
  words: 'Veils',
  version: 1,
  many: false,
  schema,
  upcasters: {}
});

/** Whether anything is masked at all. */
export const masksSomething = (veils: Veils | null): boolean =>
  veils !== null && (veils.veils.length > 0 || veils.only !== null);

/** What is masked of one frame, as rectangles: its veils, and what lies around the part that alone is kept. */
export function maskedOf(
  { veils, only }: Veils,
  frame: number,
  size: { width: number; height: number }
): Area[] {
  const own = veils.filter(({ frames }) => frames === undefined || frames.includes(frame));
  if (!only) return own;
  const [right, bottom] = [only.left + only.width, only.top + only.height];
  return [
    ...own,
    { left: 0, top: 0, width: size.width, height: only.top },
    { left: 0, top: bottom, width: size.width, height: size.height - bottom },
    { left: 0, top: only.top, width: only.left, height: only.height },
    { left: right, top: only.top, width: size.width - right, height: only.height }
  ].filter(({ width, height }) => width > 0 && height > 0);
}

/**
 * A copy of one frame with what is masked set to the lowest stored value: nothing of what stood there is left in it.
 * Veils that reach over the edge end there.
 */
export function veiled(raster: Raster, veils: Veils, frame: number): Raster {
  const data = raster.data.slice();
  const { width, height, channels } = raster;
  for (const each of maskedOf(veils, frame, raster)) {
    const right = Math.min(width, each.left + each.width);
    for (let y = Math.max(0, each.top); y < Math.min(height, each.top + each.height); y++)
      if (each.left < right) data.fill(0, (y * width + each.left) * channels, (y * width + right) * channels);
  }
  return { ...raster, data };
}

/** The same for all frames' samples one after the other, as they are written into an object. */
export function veiledFrames(
  shape: Omit<Raster, 'data'>,
  frames: readonly Raster['data'][],
  veils: Veils
): Raster['data'][] {
  return frames.map((data, frame) => veiled({ ...shape, data }, veils, frame).data);
}

/** Veils for a series: those that several frames share stand once, for all; the rest say on which frames they lie. */
export function agreed(found: readonly (Area & { frame: number })[], frames: number): Veil[] {
  const groups: { area: Area; frames: Set<number> }[] = [];
  for (const { frame, ...box } of found) {
    const same = groups.find(({ area: known }) => alike(known, box) > 0.5);
    if (same) {
      same.area = around(same.area, box);
      same.frames.add(frame);
    } else groups.push({ area: { ...box }, frames: new Set([frame]) });
  }
  return groups.map(({ area: box, frames: on }) =>
    on.size === frames ? box : { ...box, frames: [...on].sort((a, b) => a - b) }
  );
}

/** How alike two areas are: the share of both together that lies in both (Jaccard). A small one in a large one is another. */
function alike(a: Area, b: Area): number {
  const shared = overlap(a, b) * Math.min(a.width * a.height, b.width * b.height);
  return shared / (a.width * a.height + b.width * b.height - shared);
}
