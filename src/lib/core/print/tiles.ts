import type { RectMm, SizeMm } from './paper';

/** A part of a picture that stands on one sheet. */
export interface Tile {
  row: number;
  column: number;
  /** In the picture as it is seen, from its left and upper edge, in mm. */
  part: RectMm;
}

/** So far neighbouring sheets show the same, so that they can be laid over one another. */
export const overlapMm = 10;
/** Nobody lays more sheets together. */
export const mostTiles = 36;

/**
 * A picture too large for a sheet, in tiles that overlap: as few rows and columns as do, all of one size. One that fits
 * is a single tile. A picture of 300 x 200 mm on an area of 190 x 257 mm is two tiles of 155 x 200 mm.
 * @param most how many tiles are allowed
 * @throws RangeError for a size that is none, an area not larger than the overlap, or more tiles than are allowed
 */
export function tilesOf(picture: SizeMm, area: SizeMm, most = mostTiles): Tile[] {
  for (const mm of [picture.width, picture.height])
    if (!(mm > 0 && Number.isFinite(mm))) throw new RangeError(`a picture needs a size, got ${mm} mm`);
  if (Math.min(area.width, area.height) <= overlapMm)
    throw new RangeError(`an area must be larger than the overlap of ${overlapMm} mm`);
  const columns = along(picture.width, area.width);
  const rows = along(picture.height, area.height);
  if (rows.length * columns.length > most)
    throw new RangeError(`${rows.length * columns.length} sheets are more than ${most}`);
  return rows.flatMap(({ from: top, size: height }, row) =>
    columns.map(({ from: left, size: width }, column) => ({
      row,
      column,
      part: { left, top, width, height }
    }))
  );
}

/** Rounding alone makes no second sheet. */
const slackMm = 1e-6;

function along(mm: number, room: number): { from: number; size: number }[] {
  if (mm <= room + slackMm) return [{ from: 0, size: mm }];
  const count = Math.ceil((mm - overlapMm) / (room - overlapMm) - slackMm);
  const size = (mm + (count - 1) * overlapMm) / count;
  return Array.from({ length: count }, (_, i) => ({ from: i * (size - overlapMm), size }));
}
