import type { ScaleBar } from '../measurement/scaleBar';
import type { Point, Size } from '../raster/orientation';
import { linesSeen, pathSeen } from './drawnPaths';
import type { KeptDrawing } from './layers/kept/kept';
import { wordsPlaces } from './wordsPlace';

/** Words as outlines, so that they look the same wherever the picture is opened. */
export type Lettering = (words: string, sizePx: number) => { path: string; width: number };

export interface OverlayWish {
  /** Of the picture that it lies over. */
  size: Size;
  /** Where an image point is seen there. */
  seen: (point: Point) => Point;
  drawings: readonly KeptDrawing[];
  /** How long the bar is there, and what it says. */
  bar: (Pick<ScaleBar, 'words'> & { lengthPx: number }) | null;
  lettering: Lettering;
  /** Lines and letters are made for a picture so wide or high, and grow with larger ones; 900 where nothing is said. */
  madeForPx?: number;
}

const usuallyMadeForPx = 900;
/** As the stage draws. */
const ice = '#b5e3f7';
/** How high letters are on a picture of the size that they are made for. */
export const letterPx = 18;

/** What is drawn over a picture, as SVG of the same size. */
export function overlaySvg({
  size,
  seen,
  drawings,
  bar,
  lettering,
  madeForPx = usuallyMadeForPx
}: OverlayWish): string {
  const times = Math.max(1, Math.max(size.width, size.height) / madeForPx);
  const small = { width: size.width / times, height: size.height / times };
  const at = (point: Point) => {
    const { x, y } = seen(point);
    return { x: x / times, y: y / times };
  };
  const drawn = drawings.map(({ shapes, wordsAt, words }) => ({
    shapes,
    at: at(wordsAt),
    lines: linesSeen(shapes, at),
    words
  }));
  const places = wordsPlaces(drawn, small);
  const lines = drawn.flatMap(({ shapes }) =>
    shapes.map((shape) => stroke(pathSeen(shape, at), shape.dashed === true))
  );
  const words = drawn.map((each, i) =>
    each.words ? letters(lettering(each.words, letterPx), places[i]) : ''
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${size.width}" height="${size.height}" viewBox="0 0 ${small.width} ${small.height}">`,
    ...lines,
    ...words,
    bar ? barSvg({ ...bar, lengthPx: bar.lengthPx / times }, small, lettering) : '',
    '</svg>'
  ].join('');
}

const stroke = (d: string, dashed: boolean) =>
  `<path d="${d}" fill="none" stroke="#000" stroke-opacity="0.6" stroke-width="4.5"/>` +
  `<path d="${d}" fill="none" stroke="${ice}" stroke-width="1.5"${dashed ? ' stroke-dasharray="7 5"' : ''}/>`;

const letters = ({ path }: ReturnType<Lettering>, { x, y }: Point) =>
  `<g transform="translate(${x} ${y})"><path d="${path}" fill="${ice}" stroke="#000" stroke-opacity="0.75" stroke-width="4" stroke-linejoin="round"/><path d="${path}" fill="${ice}"/></g>`;

function barSvg({ lengthPx, words }: ScaleBar, { width, height }: Size, lettering: Lettering): string {
  const [right, y, end] = [width - 16, height - 18, 5];
  const left = right - lengthPx;
  const d = `M${left} ${y - end}V${y + end}M${left} ${y}H${right}M${right} ${y - end}V${y + end}`;
  const said = lettering(words, letterPx);
  return stroke(d, false) + letters(said, { x: Math.max(4, right - said.width), y: y - 12 });
}
