import { type LayerName, layerKindOf } from '$core/picture/layers/all';
import { placeTool } from './place';
import { strokeTool } from './stroke';
import type { Tool } from './tool';

/** Points that a stroke of a kind has at least. */
const leastOfStroke: Partial<Record<LayerName, number>> = { outline: 3 };

/** The tool that places the points of one kind of thing, or draws it in one go. */
export function toolOfKind(kind: LayerName): Tool<unknown> {
  const { words, placed } = layerKindOf(kind);
  const { pointNames, further, stroke, followsEdges } = placed!;
  const tool = stroke
    ? strokeTool(words, leastOfStroke[kind] ?? 2)
    : placeTool(pointNames, further, followsEdges);
  return tool as Tool<unknown>;
}
