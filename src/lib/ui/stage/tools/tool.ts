import type { PlacedPoint } from '$core/calibration/scale';
import type { Look } from '$core/raster/look/look';
import type { Point } from '$core/raster/orientation';
import type { Stage, View } from '$core/raster/view';

/** What a tool sees of the stage it works on. */
export interface Surface {
  view: View;
  stage: Stage;
  look: Look;
}

/** A press, a move or a lift of mouse, pen or finger, in screen pixels of the stage. */
export interface PointerAct {
  phase: 'down' | 'move' | 'up';
  at: Point;
  /** Points of the picture between the last placed one and this, where an edge was followed. */
  along?: readonly Point[];
}

export interface KeyAct {
  key: string;
  shift: boolean;
}

/** What a tool does to the stage or to what is on the picture. */
export type Deed =
  | { kind: 'view'; view: View }
  /** Not done while it is being dragged. */
  | { kind: 'look'; look: Look; done: boolean }
  /** All the points that were wanted are placed. */
  | { kind: 'placed'; points: PlacedPoint[] }
  /** Points of what is on the picture already; not done while they are being moved. */
  | { kind: 'moved'; id: string; points: PlacedPoint[]; done: boolean }
  /** What was being moved is left as it was. */
  | { kind: 'left'; id: string };

export interface Turn<State> {
  state: State;
  deeds: Deed[];
}

/** What a tool's state looks like on the stage. */
export interface Shown {
  /** Points of a drawing that is not finished; the last one follows the pointer. */
  draft: PlacedPoint[];
  /** The point that was placed last: an edge would be followed from there. */
  from?: Point | null;
  /** Whether something is begun: a press belongs to it then, whatever lies there already. */
  begun?: boolean;
  /** Those of its points that are marked; all of them when it is absent. */
  marks?: readonly PlacedPoint[];
  /** The image point that the magnifier shows. */
  magnified: Point | null;
  /** What to do next, in words. */
  message: string;
  /** Whether it may be said to be done with what is there. */
  finishes?: boolean;
}

/**
 * A small state machine. Mouse, pen, finger and keys all go through it, so that what one can do the others can. It knows
 * nothing of pages; what comes of an act are deeds that whoever holds the stage carries out.
 */
export interface Tool<State> {
  cursor: string;
  /** Whether edges of the picture can be followed from one of its points to the next. */
  follows?: boolean;
  /** The state when the tool is taken up, and after each thing it finishes. */
  enter(surface: Surface): State;
  pointer(state: State, act: PointerAct, surface: Surface): Turn<State>;
  /** Null for a key that means nothing to it. */
  key(state: State, act: KeyAct, surface: Surface): Turn<State> | null;
  /** The key was let go. */
  keyUp?(state: State, surface: Surface): Turn<State>;
  /** The person gives up what is under way. */
  cancel(state: State, surface: Surface): Turn<State> | null;
  /** The person says that it is done. @param along as in {@link PointerAct} */
  complete(state: State, surface: Surface, along?: readonly Point[]): Turn<State> | null;
  /** The person says that what is there is all there is to be; null where that can't be yet. */
  finish?(state: State, surface: Surface): Turn<State> | null;
  /** A second finger, a lost pointer, another window: nobody meant to finish anything. */
  interrupted(state: State, surface: Surface): Turn<State>;
  shown(state: State): Shown;
}

export const nothingShown: Shown = { draft: [], magnified: null, message: '' };

export const stay = <State>(state: State): Turn<State> => ({ state, deeds: [] });

const ways: Record<string, Point> = {
  ArrowLeft: { x: -1, y: 0 },
  ArrowRight: { x: 1, y: 0 },
  ArrowUp: { x: 0, y: -1 },
  ArrowDown: { x: 0, y: 1 }
};

/** The way an arrow key points on the screen; null for other keys. */
export const arrowWay = (key: string): Point | null => ways[key] ?? null;
