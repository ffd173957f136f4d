import type { PlacedPoint } from '$core/calibration/scale';
import type { LayerName } from '$core/picture/layers/all';
import { layerKindOf } from '$core/picture/layers/all';
import type { Drawing } from '$core/picture/drawing';

/** Something that is drawn on the stage, in image pixels of the original. */
export interface ShownDrawing {
  id: string;
  kind: LayerName;
  body: unknown;
  /** What stands beside it. */
  words: string;
}

export const drawnOf = ({ kind, body }: ShownDrawing): Drawing => layerKindOf(kind).placed!.drawn(body);
export const pointsOf = ({ kind, body }: ShownDrawing): PlacedPoint[] =>
  layerKindOf(kind).placed!.pointsOf(body);
export const pointNamesOf = ({ kind }: ShownDrawing): readonly string[] =>
  layerKindOf(kind).placed!.pointNames;
