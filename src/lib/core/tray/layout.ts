import type { Size } from '../raster/orientation';
import { inRows } from './inRows';
import type { Slot, SlotShape } from './slot';
import type { Well } from './tray';

/** Where a well lies on the tray: its picture's frame, with a caption under it. */
export interface WellFrame {
  left: number;
  top: number;
  width: number;
  height: number;
}

export const captionPx = 24;
const gapPx = 9;
const marginPx = 10;
const mostPx = 190;
const leastPx = 40;

/** Width and height of a picture's frame, the longer side 1. */
export const wellShapes: Record<SlotShape, Size> = {
  standing: { width: 0.74, height: 1 },
  lying: { width: 1, height: 0.74 },
  square: { width: 0.9, height: 0.9 },
  wide: { width: 1, height: 0.5 },
  tall: { width: 0.5, height: 1 }
};

/** Where slots lie: as their pattern has them, or, once slots were added on the spot, all in rows along the route. */
export function placedSlots(wells: readonly Pick<Well, 'slot' | 'added'>[]): Pick<Slot, 'at' | 'shape'>[] {
  if (!wells.some(({ added }) => added)) return wells.map(({ slot }) => slot);
  const places = inRows(wells.length);
  return wells.map(({ slot }, i) => ({ shape: slot.shape, at: places[i] }));
}

/** A well smaller than this shows little; if rows make them so much larger, they stand in rows. */
const smallPx = 90;
const muchLarger = 1.5;

/**
 * Wells as large as they can be at their places without touching one another. On a tray too low for their places they
 * stand in rows along the route, where that makes them much larger.
 * @param most how long the longer side of a well is at most, in screen pixels
 */
export function layWells(
  slots: readonly Pick<Slot, 'at' | 'shape'>[],
  tray: Size,
  most = mostPx
): WellFrame[] {
  const own = largest(slots, tray, most);
  if (own.unit >= smallPx) return own.frames;
  const places = inRows(slots.length);
  const rows = largest(
    slots.map(({ shape }, i) => ({ shape, at: places[i] })),
    tray,
    most
  );
  return rows.unit >= muchLarger * own.unit ? rows.frames : own.frames;
}

const heightStep = 8;

/**
 * The same with rows no further apart than they have to be, all of it in the middle of the tray: for looking at, where
 * what lies between is nothing to look at.
 */
export function layClose(
  slots: readonly Pick<Slot, 'at' | 'shape'>[],
  tray: Size,
  most: number
): WellFrame[] {
  const widest = (frames: readonly WellFrame[]) => Math.max(0, ...frames.map(({ width }) => width));
  let frames = layWells(slots, tray, most);
  let { height } = tray;
  while (height > heightStep) {
    const closer = layWells(slots, { width: tray.width, height: height - heightStep }, most);
    if (widest(closer) < widest(frames)) break;
    [frames, height] = [closer, height - heightStep];
  }
  return frames.map((frame) => ({ ...frame, top: frame.top + (tray.height - height) / 2 }));
}

function largest(slots: readonly Pick<Slot, 'at' | 'shape'>[], tray: Size, most: number) {
  for (let unit = most; unit > leastPx; unit -= 2) {
    const frames = slots.map((slot) => frameOf(slot, unit, tray));
    if (fits(frames, tray)) return { unit, frames };
  }
  return { unit: leastPx, frames: slots.map((slot) => frameOf(slot, leastPx, tray)) };
}

function frameOf({ at, shape }: Pick<Slot, 'at' | 'shape'>, unit: number, tray: Size): WellFrame {
  const width = wellShapes[shape].width * unit;
  const height = wellShapes[shape].height * unit + captionPx;
  const along = (share: number, full: number, size: number) =>
    Math.max(marginPx, Math.min(full - marginPx - size, share * full - size / 2));
  return {
    left: along(at.x, tray.width, width),
    top: marginPx + at.y * Math.max(0, tray.height - 2 * marginPx - height),
    width,
    height
  };
}

function fits(frames: readonly WellFrame[], tray: Size): boolean {
  const inside = frames.every(
    ({ width, height }) => width + 2 * marginPx <= tray.width && height + 2 * marginPx <= tray.height
  );
  return (
    inside &&
    frames.every((a, i) =>
      frames
        .slice(i + 1)
        .every(
          (b) =>
            a.left + a.width + gapPx <= b.left ||
            b.left + b.width + gapPx <= a.left ||
            a.top + a.height + gapPx <= b.top ||
            b.top + b.height + gapPx <= a.top
        )
    )
  );
}
