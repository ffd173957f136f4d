import type { Size } from '$core/raster/orientation';

/** Rows and columns of places. */
export interface Grid {
  columns: number;
  rows: number;
}

/**
 * How so many pictures lie side by side so that they are seen as large as can be: in columns, rows, or both.
 * @param sides how wide and how high the pictures are
 * @param room what there is for all of them, in screen pixels
 */
export function gridFor(sides: readonly Size[], room: Size): Grid {
  const count = sides.length;
  const grids = Array.from({ length: count }, (_, i): Grid => {
    const rows = Math.ceil(count / (i + 1));
    // No column stands empty.
    return { columns: Math.ceil(count / rows), rows };
  });
  const seen = ({ columns, rows }: Grid) =>
    sides.reduce((sum, { width, height }) => {
      const zoom = Math.min(room.width / columns / width, room.height / rows / height);
      return sum + zoom * zoom * width * height;
    }, 0);
  // Of those that are equally good, the one with more columns: what is compared is compared across.
  return grids.reduce((best, grid) => (seen(grid) >= seen(best) * 0.999 ? grid : best), grids[0]);
}
