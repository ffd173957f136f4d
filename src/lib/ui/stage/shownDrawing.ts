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

export const drawnOf = ({ kind, body }: ShownDrawing, aspect: number): Drawing =>
  layerKindOf(kind).placed!.drawn(body, aspect);
export const pointsOf = ({ kind, body }: ShownDrawing): PlacedPoint[] =>
  layerKindOf(kind).placed!.pointsOf(body);
/** What the so-manyeth of its points is called. */
export function pointNameOf({ kind, body }: ShownDrawing, index: number): string {
  const { pointNames, namesOf, further } = layerKindOf(kind).placed!;
  return (namesOf?.(body) ?? pointNames)[index] ?? `${further} (${index + 1})`;
}
