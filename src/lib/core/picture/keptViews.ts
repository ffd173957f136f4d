import type { Point, Size } from '../raster/orientation';
import { type Stage, type View, partShown } from '../raster/view';
import type { KeptDrawing, KeptView } from './layers/kept/kept';
import { type LayerName, layerKindOf } from './layers/all';
import type { PictureView } from './pictureView';
import type { PictureReading } from './readings';

/** A kept view with the picture that it was made of. */
export interface KeptOf {
  id: string;
  picture: PictureView;
  kept: KeptView;
  /** Who kept it or changed it last; empty while that is on its way. */
  by: string;
}

/** All kept views of some pictures, in their order. */
export const keptOf = (pictures: readonly PictureView[]): KeptOf[] =>
  pictures
    .flatMap((picture) =>
      picture.layers.items.flatMap(({ id, kind, body, by }): KeptOf[] =>
        kind === 'kept' ? [{ id, picture, kept: body as KeptView, by }] : []
      )
    )
    .sort((a, b) => a.kept.place - b.kept.place || a.kept.keptAt.localeCompare(b.kept.keptAt));

/** The part of a picture that a stage shows, in oriented points; null when it shows nothing of it. */
export function shownWindow({ center, zoom }: View, stage: Stage): KeptView['window'] | null {
  const { screen } = stage;
  const part = partShown(stage);
  const along = (
    middle: number,
    screenPx: number,
    least: number,
    side: number
  ): [from: number, to: number] => [
    Math.max(least, middle - screenPx / 2 / zoom),
    Math.min(least + side, middle + screenPx / 2 / zoom)
  ];
  const [left, right] = along(center.x, screen.width, part.left, part.width);
  const [top, bottom] = along(center.y, screen.height, part.top, part.height);
  return right - left > 0.5 && bottom - top > 0.5
    ? { left, top, width: right - left, height: bottom - top }
    : null;
}

/** How a stage of that size shows a kept view's part as large as it can. */
export const viewOfKept = ({ window }: KeptView, screen: Size): View => ({
  center: { x: window.left + window.width / 2, y: window.top + window.height / 2 },
  zoom: Math.min(screen.width / window.width, screen.height / window.height)
});

/** To a hundredth of a pixel, which nobody sees: a view with many outlines stays small enough to be sent. */
const plain = ({ x, y }: Point): Point => ({ x: Math.round(100 * x) / 100, y: Math.round(100 * y) / 100 });

/** Something drawn, as a kept view holds it: lines and words, whatever it was made by. */
export function drawingToKeep(kind: LayerName, body: unknown, aspect: number, words: string): KeptDrawing {
  const { shapes, wordsAt } = layerKindOf(kind).placed!.drawn(body, aspect);
  return {
    shapes: shapes.map((shape) =>
      shape.kind === 'line'
        ? { ...shape, from: plain(shape.from), to: plain(shape.to) }
        : { ...shape, points: shape.points.map(plain) }
    ),
    wordsAt: plain(wordsAt),
    words
  };
}

/** Readings and drawings as they are now, to be kept. */
export const drawingsToKeep = (
  readings: readonly PictureReading[],
  aspect: number,
  words: (reading: PictureReading) => string
): KeptDrawing[] =>
  readings
    .filter(({ note }) => !note.hidden)
    .map((reading) => drawingToKeep(reading.item.kind, reading.item.body, aspect, words(reading)));

/** Where one comes to stand that is put between two others; at an end where there is none. */
export function placeBetween(before: number | undefined, after: number | undefined): number {
  if (before === undefined) return after === undefined ? 0 : after - 1;
  return after === undefined ? before + 1 : (before + after) / 2;
}
