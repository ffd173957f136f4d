import { DraftingCompass, Hand, Ruler, SunMedium, Waypoints } from '@lucide/svelte';
import type { Component } from 'svelte';
import { type LayerName, layerKindOf } from '$core/picture/layers/all';
import { moveTool } from '../stage/tools/move';
import { placeTool } from '../stage/tools/place';
import type { Tool } from '../stage/tools/tool';
import { windowTool } from '../stage/tools/window';
import CheckPanel from './CheckPanel.svelte';
import MeasurePanel from './MeasurePanel.svelte';
import ScalePanel from './ScalePanel.svelte';
import type { StationTable, TableTool } from './station';
import type { LightTable } from './table.svelte';

/** A station's table with the panel that stands beside the picture. */
type StationWithPanel = StationTable & { panel: Component<{ table: LightTable }> };

const window: TableTool = {
  id: 'window',
  words: 'Window',
  key: 'W',
  icon: SunMedium,
  tool: windowTool as Tool<unknown>,
  changes: true
};
const move: TableTool = {
  id: 'move',
  words: 'Move',
  key: 'P',
  icon: Hand,
  tool: moveTool as Tool<unknown>,
  changes: false
};

/** A tool that places the points of one kind of thing. */
const placing = (kind: LayerName, key: string, icon: TableTool['icon']): TableTool => {
  const { words, placed } = layerKindOf(kind);
  return {
    id: kind,
    words,
    key,
    icon,
    tool: placeTool(placed!.pointNames) as Tool<unknown>,
    changes: true,
    makes: kind
  };
};

const knownLength: TableTool = {
  ...placing('scale', 'L', Waypoints),
  id: 'known-length',
  words: 'Known length',
  makes: 'known length'
};

export const stationTables = {
  check: { tools: [window, move], turns: true, showsScale: false, panel: CheckPanel },
  scale: { tools: [window, move, knownLength], turns: false, showsScale: true, panel: ScalePanel },
  measure: {
    tools: [window, move, placing('length', 'L', Ruler), placing('angle', 'A', DraftingCompass)],
    turns: false,
    showsScale: false,
    panel: MeasurePanel
  }
} satisfies Record<string, StationWithPanel>;
