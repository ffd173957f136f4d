import type { Component } from 'svelte';
import type { LayerName } from '$core/picture/layers/all';
import type { Tool } from '../stage/tools/tool';

/** Tools of one family share a button below the stage. */
export const toolFamilies = ['Measure', 'Draw', 'Frame'] as const;
export type ToolFamily = (typeof toolFamilies)[number];

export interface TableTool {
  id: string;
  words: string;
  key: string;
  icon: Component<{ size?: number }>;
  tool: Tool<unknown>;
  /** Whether it takes the right to change pictures. */
  changes: boolean;
  /** What its points become. */
  makes?: LayerName | 'known length' | 'known circle' | 'level line' | 'crop';
  /** The family it belongs to: tools of one share a button below the stage, under its words. */
  family?: ToolFamily;
}

/** What a station puts on the light table: its tools, and what it lets one do to the picture. */
export interface StationTable {
  tools: readonly TableTool[];
  turns: boolean;
  showsScale: boolean;
}
