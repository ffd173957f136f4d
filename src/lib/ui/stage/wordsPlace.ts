import type { Point, Size } from '$core/raster/orientation';

/** About how wide a letter of the words is, and how high the words are, in screen pixels. */
const letterPx = 9.5;
const heightPx = 18;
const marginPx = 6;
const clearPx = 4;

/**
 * Where words stand beside a drawing: the left end of their base line, near a point of it, off its own lines where that
 * is possible and on the stage always.
 * @param lines of the drawing, in screen pixels like everything here
 */
export function wordsPlace(
  at: Point,
  words: string,
  lines: readonly (readonly [Point, Point])[],
  stage: Size
): Point {
  const width = words.length * letterPx;
  const [right, left, middle] = [12, -12 - width, -width / 2];
  const [above, below] = [-10, 10 + heightPx];
  const places = [
    [right, above],
    [left, above],
    [right, below],
    [left, below],
    [middle, above * 2],
    [middle, below + 10]
  ].map(([x, y]) => onStage({ x: at.x + x, y: at.y + y }, width, stage));
  return places.find((place) => !lines.some((line) => crosses(line, place, width))) ?? places[0];
}

const onStage = ({ x, y }: Point, width: number, stage: Size): Point => ({
  x: Math.max(marginPx, Math.min(stage.width - width - marginPx, x)),
  y: Math.max(heightPx + marginPx, Math.min(stage.height - 30, y))
});

/** Whether a line comes near the words' box: what is left of it between the box's sides (Liang and Barsky, 1984). */
function crosses([from, to]: readonly [Point, Point], { x, y }: Point, width: number): boolean {
  const sides: [along: number, least: number, most: number, start: number][] = [
    [to.x - from.x, x - clearPx, x + width + clearPx, from.x],
    [to.y - from.y, y - heightPx - clearPx, y + clearPx, from.y]
  ];
  let [enters, leaves] = [0, 1];
  for (const [along, least, most, start] of sides) {
    if (along === 0) {
      if (start < least || start > most) return false;
      continue;
    }
    const [a, b] = [(least - start) / along, (most - start) / along];
    enters = Math.max(enters, Math.min(a, b));
    leaves = Math.min(leaves, Math.max(a, b));
  }
  return enters < leaves;
}
