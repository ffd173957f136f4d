import type { Point, Size } from '../raster/orientation';

/** About how wide a letter of the words is, and how high the words are, in screen pixels. */
const letterPx = 9.5;
const heightPx = 18;
const rowPx = 26;
const marginPx = 6;
const clearPx = 4;

type Lines = readonly (readonly [Point, Point])[];

/**
 * Where words stand beside a drawing: the left end of their base line, near a point of it, off its own lines and off
 * other words where that is possible, and on the stage always.
 * @param lines of the drawing, in screen pixels like everything here
 * @param taken boxes of other words
 */
export function wordsPlace(
  at: Point,
  words: string,
  lines: Lines,
  stage: Size,
  taken: readonly WordsBox[] = []
): Point {
  const width = words.length * letterPx;
  const [right, left, middle] = [12, -12 - width, -width / 2];
  const [above, below] = [-10, 10 + heightPx];
  const near = [
    [right, above],
    [left, above],
    [right, below],
    [left, below],
    [middle, above * 2],
    [middle, below + 10]
  ];
  // Further off, row by row, for a place where much is drawn.
  const far = [2, 3, 4, 5].flatMap((rows) =>
    [-1, 1].flatMap((way) => [right, left, middle].map((x) => [x, way * rows * rowPx]))
  );
  const places = [...near, ...far].map(([x, y]) => onStage({ x: at.x + x, y: at.y + y }, width, stage));
  const isClear = (place: Point) => !lines.some((line) => crosses(line, place, width));
  const isFree = (place: Point) => !taken.some((box) => overlap(box, { ...place, width }));
  return (
    places.find((place) => isFree(place) && isClear(place)) ??
    places.find(isFree) ??
    places.find(isClear) ??
    places[0]
  );
}

/** Words that stand somewhere: the left end of their base line, and how wide they are. */
export interface WordsBox extends Point {
  width: number;
}

/** Places for the words of several drawings, none over another's. Drawings without words take none. */
export function wordsPlaces(
  drawings: readonly { at: Point; words: string; lines: Lines }[],
  stage: Size
): Point[] {
  const taken: WordsBox[] = [];
  return drawings.map(({ at, words, lines }) => {
    const place = wordsPlace(at, words, lines, stage, taken);
    if (words) taken.push({ ...place, width: words.length * letterPx });
    return place;
  });
}

const overlap = (a: WordsBox, b: WordsBox): boolean =>
  a.x < b.x + b.width + clearPx && b.x < a.x + a.width + clearPx && Math.abs(a.y - b.y) < heightPx + clearPx;

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
