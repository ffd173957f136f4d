import {
  type Orientation,
  type Part,
  type Point,
  type Size,
  orientedSize,
  toImage,
  toOriented
} from './orientation';
import type { Window } from './patch';

/**
 * What a stage shows: which oriented point lies in the middle of the screen, and how many screen pixels one image
 * pixel takes. Screen points count from the stage's top left corner.
 */
export interface View {
  center: Point;
  zoom: number;
}

export interface Stage {
  picture: Size;
  orientation: Orientation;
  screen: Size;
  /** The part of the picture, as it is turned, that is looked at; all of it when it is absent. */
  part?: Part;
}

/** What a stage shows of a picture, in oriented points. */
export const partShown = ({ picture, orientation, part }: Omit<Stage, 'screen'>): Part =>
  part ?? { left: 0, top: 0, ...orientedSize(picture, orientation) };

export const leastZoom = 0.02;
export const mostZoom = 32;

export function fitted(stage: Stage): View {
  const { left, top, width, height } = partShown(stage);
  return {
    center: { x: left + width / 2, y: top + height / 2 },
    zoom: Math.min(stage.screen.width / width, stage.screen.height / height)
  };
}

export function toScreen(imagePoint: Point, view: View, stage: Stage): Point {
  const oriented = toOriented(imagePoint, stage.picture, stage.orientation);
  return {
    x: (oriented.x - view.center.x) * view.zoom + stage.screen.width / 2,
    y: (oriented.y - view.center.y) * view.zoom + stage.screen.height / 2
  };
}

export function screenToImage(screenPoint: Point, view: View, stage: Stage): Point {
  const oriented = {
    x: (screenPoint.x - stage.screen.width / 2) / view.zoom + view.center.x,
    y: (screenPoint.y - stage.screen.height / 2) / view.zoom + view.center.y
  };
  return toImage(oriented, stage.picture, stage.orientation);
}

/** The pixels of a picture that can be seen, a share of them more on each side; null when none can. */
export function visibleWindow(view: View, stage: Stage, moreShare = 0): Window | null {
  const { picture, screen } = stage;
  const margin = { x: screen.width * moreShare, y: screen.height * moreShare };
  const [right, bottom] = [screen.width + margin.x, screen.height + margin.y];
  const corners = [-margin.x, right].flatMap((x) =>
    [-margin.y, bottom].map((y) => screenToImage({ x, y }, view, stage))
  );
  const along = (axis: 'x' | 'y', side: number): [from: number, to: number] => {
    const places = corners.map((corner) => corner[axis]);
    return [Math.max(0, Math.floor(Math.min(...places))), Math.min(side, Math.ceil(Math.max(...places)))];
  };
  const [fromX, toX] = along('x', picture.width);
  const [fromY, toY] = along('y', picture.height);
  return toX > fromX && toY > fromY
    ? { left: fromX, top: fromY, width: toX - fromX, height: toY - fromY }
    : null;
}

/** Zooms so that what lies under the pointer stays there. */
export function zoomedAbout(view: View, screenPoint: Point, factor: number, screen: Size): View {
  const zoom = Math.max(leastZoom, Math.min(mostZoom, view.zoom * factor));
  const dx = screenPoint.x - screen.width / 2;
  const dy = screenPoint.y - screen.height / 2;
  return {
    zoom,
    center: {
      x: view.center.x + dx / view.zoom - dx / zoom,
      y: view.center.y + dy / view.zoom - dy / zoom
    }
  };
}

export function panned(view: View, screenDx: number, screenDy: number): View {
  return {
    ...view,
    center: { x: view.center.x - screenDx / view.zoom, y: view.center.y - screenDy / view.zoom }
  };
}

/** A view as it carries over to a picture of another size: the middle as shares of the picture, the zoom as a multiple of fitting. */
export interface SharedView {
  x: number;
  y: number;
  timesFitted: number;
}

export function shared(view: View, stage: Stage): SharedView {
  const { left, top, width, height } = partShown(stage);
  return {
    x: (view.center.x - left) / width,
    y: (view.center.y - top) / height,
    timesFitted: view.zoom / fitted(stage).zoom
  };
}

/** The same part of another picture, as large on its own stage. */
export function fromShared({ x, y, timesFitted }: SharedView, stage: Stage): View {
  const { left, top, width, height } = partShown(stage);
  const zoom = Math.max(leastZoom, Math.min(mostZoom, timesFitted * fitted(stage).zoom));
  return { center: { x: left + x * width, y: top + y * height }, zoom };
}
