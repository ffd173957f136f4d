import {
  ChartColumn,
  ChartLine,
  ChevronsLeftRight,
  Circle,
  CircleGauge,
  Crop,
  Divide,
  DraftingCompass,
  Egg,
  FoldVertical,
  Hand,
  Lasso,
  MoveUpRight,
  PenLine,
  Pentagon,
  Ruler,
  Spline,
  SunMedium,
  Tag,
  Type,
  Waypoints
} from '@lucide/svelte';
import type { Component } from 'svelte';
import { type LayerName, layerKindOf } from '$core/picture/layers/all';
import { boxTool } from '../stage/tools/box';
import { moveTool } from '../stage/tools/move';
import { toolOfKind } from '../stage/tools/ofKind';
import { placeTool } from '../stage/tools/place';
import type { Tool } from '../stage/tools/tool';
import { windowTool } from '../stage/tools/window';
import CheckPanel from './CheckPanel.svelte';
import MeasurePanel from './MeasurePanel.svelte';
import ScalePanel from './ScalePanel.svelte';
import type { StationTable, TableTool, ToolFamily } from './station';
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

const tilt: TableTool = {
  id: 'tilt',
  words: 'Tilt',
  key: 'T',
  icon: CircleGauge,
  tool: placeTool(['One end of what should be level or upright', 'Its other end']) as Tool<unknown>,
  changes: true,
  makes: 'level line',
  family: 'Frame'
};
const crop: TableTool = {
  id: 'crop',
  words: 'Crop',
  key: 'C',
  icon: Crop,
  tool: boxTool(['A corner of what is to be shown', 'The opposite corner']) as Tool<unknown>,
  changes: true,
  makes: 'crop',
  family: 'Frame'
};

const placing = (kind: LayerName, key: string, icon: TableTool['icon'], family?: ToolFamily): TableTool => ({
  id: kind,
  words: layerKindOf(kind).words,
  key,
  icon,
  tool: toolOfKind(kind),
  changes: true,
  makes: kind,
  family
});

const knownLength: TableTool = {
  ...placing('scale', 'L', Waypoints),
  id: 'known-length',
  words: 'Known length',
  makes: 'known length'
};

const knownCircle: TableTool = {
  ...placing('circle', 'O', Circle),
  id: 'known-circle',
  words: 'Round marker',
  makes: 'known circle'
};
const measures = [
  placing('curve', 'C', Spline, 'Measure'),
  placing('to line', 'D', FoldVertical, 'Measure'),
  placing('two lines', 'T', ChevronsLeftRight, 'Measure'),
  placing('ratio', 'R', Divide, 'Measure'),
  placing('circle', 'O', Circle, 'Measure'),
  placing('ellipse', 'E', Egg, 'Measure'),
  placing('area', 'S', Pentagon, 'Measure'),
  placing('region', 'G', ChartColumn, 'Measure'),
  placing('profile', 'H', ChartLine, 'Measure')
];
const drawings = [
  placing('arrow', 'Y', MoveUpRight, 'Draw'),
  placing('text', 'X', Type, 'Draw'),
  placing('label', 'B', Tag, 'Draw'),
  placing('freehand', 'N', PenLine, 'Draw'),
  placing('outline', 'U', Lasso, 'Draw')
];

export const stationTables = {
  check: { tools: [window, move, tilt, crop], turns: true, showsScale: false, panel: CheckPanel },
  scale: {
    tools: [window, move, knownLength, knownCircle],
    turns: false,
    showsScale: true,
    panel: ScalePanel
  },
  measure: {
    tools: [
      window,
      move,
      placing('length', 'L', Ruler),
      placing('angle', 'A', DraftingCompass),
      ...measures,
      ...drawings
    ],
    turns: false,
    showsScale: false,
    panel: MeasurePanel
  }
} satisfies Record<string, StationWithPanel>;
