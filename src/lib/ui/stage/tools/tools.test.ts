import { describe, expect, it } from 'vitest';
import { isInverted, windowLook, windowOf } from '$core/raster/look/look';
import { upright } from '$core/raster/orientation';
import { fitted, screenToImage, toScreen } from '$core/raster/view';
import { type Fingers, pinched } from './pinch';
import { type Handle, handleTool } from './handle';
import { moveTool } from './move';
import { placeTool } from './place';
import { strokeTool } from './stroke';
import type { Deed, PointerAct, Surface, Tool } from './tool';
import { windowTool } from './window';

const stage = {
  picture: { width: 1000, height: 800 },
  orientation: upright,
  screen: { width: 500, height: 400 }
};
const look = windowLook({ center: 100, width: 50 }, true);
const surface: Surface = { view: fitted(stage), stage, look };

/** A tool in somebody's hands: what it is told, and everything that comes of it. */
function inHand<State>(tool: Tool<State>) {
  let state = tool.enter(surface);
  const deeds: Deed[] = [];
  const take = (turn: { state: State; deeds: Deed[] } | null) => {
    if (turn) {
      state = turn.state;
      deeds.push(...turn.deeds);
    }
    return turn !== null;
  };
  const pointer = (phase: PointerAct['phase'], x: number, y: number, along?: PointerAct['along']) =>
    take(tool.pointer(state, { phase, at: { x, y }, along }, surface));
  return {
    deeds,
    pointer,
    press: (x: number, y: number) => [pointer('down', x, y), pointer('up', x, y)],
    drag: (from: [number, number], to: [number, number]) => {
      pointer('down', ...from);
      pointer('move', (from[0] + to[0]) / 2, (from[1] + to[1]) / 2);
      pointer('move', ...to);
      pointer('up', ...to);
    },
    key: (key: string, shift = false) => take(tool.key(state, { key, shift }, surface)),
    keyUp: () => take(tool.keyUp?.(state, surface) ?? null),
    cancel: () => take(tool.cancel(state, surface)),
    complete: () => take(tool.complete(state, surface)),
    finish: () => take(tool.finish?.(state, surface) ?? null),
    interrupted: () => take(tool.interrupted(state, surface)),
    shown: () => tool.shown(state)
  };
}

const done = (deeds: Deed[]) => deeds.filter((deed) => 'done' in deed && deed.done);

describe('moving the picture', () => {
  it('follows the pointer while it is down', () => {
    const hand = inHand(moveTool);
    hand.pointer('move', 50, 50);
    hand.drag([10, 10], [30, 20]);
    hand.pointer('move', 90, 90);
    const centers = hand.deeds.map((deed) => (deed.kind === 'view' ? deed.view.center : null));
    // The fitted zoom is a half: ten screen pixels are twenty of the picture.
    expect(centers[0]).toEqual({ x: 480, y: 390 });
    expect(hand.deeds).toHaveLength(3);
  });
  it('by keys goes the way of the arrow', () => {
    const hand = inHand(moveTool);
    expect([hand.key('ArrowRight'), hand.key('x')]).toEqual([true, false]);
    expect(hand.deeds).toMatchObject([{ kind: 'view', view: { center: { x: 620, y: 400 } } }]);
  });
});

describe('the window', () => {
  it('widens along and moves down; a drag is one act and keeps the rest of the look', () => {
    const hand = inHand(windowTool);
    hand.drag([0, 0], [100, 40]);
    expect(done(hand.deeds)).toHaveLength(1);
    const last = hand.deeds.at(-1) as Extract<Deed, { kind: 'look' }>;
    expect(windowOf(last.look)!.width).toBeCloseTo(50 * Math.exp(0.5), 9);
    expect(windowOf(last.look)!.center).toBeCloseTo(100 + 40 * 50 * 0.003, 9);
    expect(isInverted(last.look)).toBe(true);
  });
  it('is not touched by a press that goes nowhere', () => {
    const hand = inHand(windowTool);
    hand.press(5, 5);
    expect(hand.deeds).toEqual([]);
  });
  it('by keys changes while the key is held and is one act when it is let go', () => {
    const hand = inHand(windowTool);
    hand.key('ArrowRight');
    hand.key('ArrowRight', true);
    hand.keyUp();
    expect(done(hand.deeds)).toHaveLength(1);
    const last = hand.deeds.at(-1) as Extract<Deed, { kind: 'look' }>;
    expect(windowOf(last.look)!.width).toBeCloseTo(50 * Math.exp(48 * 0.005), 9);
  });
  it('that is given up or broken off is as it was, and is no act', () => {
    for (const how of ['cancel', 'interrupted'] as const) {
      const hand = inHand(windowTool);
      hand.pointer('down', 0, 0);
      hand.pointer('move', 80, 0);
      hand[how]();
      hand.pointer('up', 80, 0);
      expect(hand.deeds.at(-1)).toEqual({ kind: 'look', look, done: false });
      expect(done(hand.deeds)).toEqual([]);
    }
  });
});

describe('placing points', () => {
  const two = ['First end', 'Second end'];
  const at = (x: number, y: number) => screenToImage({ x, y }, surface.view, stage);
  const placed = (deeds: Deed[]) => deeds.flatMap((deed) => (deed.kind === 'placed' ? deed.points : []));

  it('takes a press each', () => {
    const hand = inHand(placeTool(two));
    expect(hand.shown().message).toContain('First end');
    hand.press(100, 100);
    expect(hand.shown().message).toContain('Second end');
    hand.press(200, 150);
    expect(placed(hand.deeds)).toMatchObject([at(100, 100), at(200, 150)]);
    expect(placed(hand.deeds).every((point) => point.uncertaintyPx > 0)).toBe(true);
  });
  it('takes a drag as two points, and shows the line meanwhile', () => {
    const hand = inHand(placeTool(two));
    hand.pointer('down', 100, 100);
    hand.pointer('move', 160, 120);
    expect(hand.shown().draft).toMatchObject([at(100, 100), at(160, 120)]);
    expect(hand.shown().magnified).toMatchObject(at(160, 120));
    hand.pointer('up', 160, 120);
    expect(placed(hand.deeds)).toMatchObject([at(100, 100), at(160, 120)]);
  });
  it('of three mixes a drag and a press, in either order', () => {
    const three = ['a', 'b', 'c'];
    const drags = inHand(placeTool(three));
    drags.drag([10, 10], [50, 10]);
    drags.press(50, 90);
    const presses = inHand(placeTool(three));
    presses.press(10, 10);
    presses.drag([50, 10], [50, 90]);
    for (const hand of [drags, presses])
      expect(placed(hand.deeds)).toMatchObject([at(10, 10), at(50, 10), at(50, 90)]);
  });
  it('takes the last point by a drag as where it is let go', () => {
    const hand = inHand(placeTool(two));
    hand.press(10, 10);
    hand.drag([100, 100], [120, 100]);
    expect(placed(hand.deeds)).toMatchObject([at(10, 10), at(120, 100)]);
  });
  it('by keys leads a cross from the middle; the same place twice counts once', () => {
    const hand = inHand(placeTool(two));
    hand.complete();
    hand.complete();
    hand.complete();
    expect(hand.deeds).toEqual([]);
    hand.key('ArrowRight', true);
    hand.complete();
    expect(placed(hand.deeds)).toMatchObject([at(250, 200), at(260, 200)]);
  });
  it('gives points back one by one, then itself', () => {
    const hand = inHand(placeTool(['a', 'b', 'c']));
    hand.press(10, 10);
    hand.press(20, 20);
    expect([hand.cancel(), hand.cancel(), hand.cancel(), hand.cancel()]).toEqual([true, true, true, false]);
    expect(hand.deeds).toEqual([]);
  });
  it('keeps its points when a second finger zooms, and places none by that', () => {
    const hand = inHand(placeTool(two));
    hand.press(10, 10);
    hand.pointer('down', 90, 90);
    hand.interrupted();
    hand.pointer('up', 90, 90);
    expect(hand.deeds).toEqual([]);
    hand.press(50, 50);
    expect(placed(hand.deeds)).toMatchObject([at(10, 10), at(50, 50)]);
  });
});

describe('placing any number of points', () => {
  const some = () => inHand(placeTool(['a', 'b', 'c'], 'next'));
  const placed = (deeds: Deed[]) =>
    deeds.flatMap((deed) => (deed.kind === 'placed' ? [deed.points.length] : []));
  it('goes on until it is said to be done, and can’t be done before there are enough', () => {
    const hand = some();
    hand.press(10, 10);
    hand.press(50, 10);
    expect([hand.finish(), hand.shown().finishes]).toEqual([false, false]);
    hand.press(50, 50);
    hand.press(10, 50);
    expect(hand.shown()).toMatchObject({ finishes: true, message: 'Place: next' });
    expect(hand.deeds).toEqual([]);
    expect(hand.finish()).toBe(true);
    expect(placed(hand.deeds)).toEqual([4]);
  });
  it('is done too by a press on the last point, or by Enter where the cross still is', () => {
    const presses = some();
    for (const [x, y] of [
      [10, 10],
      [50, 10],
      [50, 50],
      [51, 51]
    ])
      presses.press(x, y);
    const keys = some();
    for (const [x, y] of [
      [10, 10],
      [50, 10],
      [50, 50]
    ])
      keys.press(x, y);
    keys.complete();
    for (const hand of [presses, keys]) expect(placed(hand.deeds)).toEqual([3]);
  });
  it('takes the points of an edge that was followed with the one at its end', () => {
    const hand = inHand(placeTool(['a', 'b'], 'next', true));
    hand.press(10, 10);
    expect(hand.shown().from).toMatchObject(screenToImage({ x: 10, y: 10 }, surface.view, stage));
    hand.pointer('down', 60, 10);
    hand.pointer('up', 60, 10, [
      { x: 40, y: 22 },
      { x: 80, y: 26 }
    ]);
    expect(hand.shown().marks).toHaveLength(3);
    hand.press(60, 90);
    // Two points were placed by hand after the first: each goes with the edge that led to it.
    hand.cancel();
    hand.cancel();
    expect(hand.shown().marks).toHaveLength(2);
    hand.pointer('down', 60, 10);
    hand.pointer('up', 60, 10, [
      { x: 40, y: 22 },
      { x: 80, y: 26 }
    ]);
    hand.finish();
    const [deed] = hand.deeds as Extract<Deed, { kind: 'placed' }>[];
    expect(deed.points).toHaveLength(4);
    expect(deed.points[1]).toMatchObject({ x: 40, y: 22 });
  });
  it('says so when a point would lie on the last one', () => {
    const hand = inHand(placeTool(['a', 'b', 'c']));
    hand.press(10, 10);
    hand.press(11, 10);
    expect(hand.shown().message).toMatch(/where the last point lies/);
    hand.press(60, 10);
    hand.press(60, 60);
    expect(placed(hand.deeds)).toEqual([3]);
  });
});

describe('drawing in one go', () => {
  it('keeps the bends of the way and leaves out what is straight', () => {
    const hand = inHand(strokeTool('Line', 2));
    hand.pointer('down', 100, 100);
    for (let i = 1; i <= 40; i++)
      hand.pointer('move', 100 + 5 * Math.min(i, 20), 100 + 5 * Math.max(0, i - 20));
    hand.pointer('up', 200, 200);
    const [deed] = hand.deeds as Extract<Deed, { kind: 'placed' }>[];
    const seen = deed.points.map((point) => toScreen(point, surface.view, stage));
    expect(seen.map(({ x, y }) => [Math.round(x), Math.round(y)])).toEqual([
      [100, 100],
      [200, 100],
      [200, 200]
    ]);
  });
  it('that is only a press draws nothing and says why; a second finger breaks it off', () => {
    const hand = inHand(strokeTool('Line', 2));
    hand.press(100, 100);
    expect(hand.shown().message).toMatch(/Too short/);
    hand.pointer('down', 100, 100);
    hand.pointer('move', 150, 150);
    hand.interrupted();
    hand.pointer('up', 180, 180);
    expect(hand.deeds).toEqual([]);
  });
  it('by keys is led from point to point', () => {
    const hand = inHand(strokeTool('Line', 2));
    hand.complete();
    hand.complete();
    hand.key('ArrowRight', true);
    hand.complete();
    hand.complete();
    expect(hand.deeds).toMatchObject([{ kind: 'placed', points: [{}, {}] }]);
  });
});

describe('moving a point that is on the picture', () => {
  const points = [0, 1].map((i) => ({ x: 100 * i, y: 50, uncertaintyPx: 3 }));
  const handle: Handle = { id: 'r', index: 1, points };
  it('keeps the grip, leaves the other points, and is one act', () => {
    const hand = inHand(handleTool(handle));
    // The point is at 50, 25 of the screen; it is taken two pixels beside that.
    hand.drag([52, 25], [62, 35]);
    expect(done(hand.deeds)).toHaveLength(1);
    const last = hand.deeds.at(-1) as Extract<Deed, { kind: 'moved' }>;
    expect(last.points[0]).toEqual(points[0]);
    expect(last.points[1]).toMatchObject({ x: 120, y: 70 });
  });
  it('that was only pressed changes nothing', () => {
    const hand = inHand(handleTool(handle));
    hand.press(52, 25);
    expect(hand.deeds).toEqual([]);
  });
  it('by keys moves while the key is held; letting go is the act', () => {
    const hand = inHand(handleTool(handle));
    hand.key('ArrowUp');
    hand.key('ArrowUp');
    hand.keyUp();
    expect(done(hand.deeds)).toHaveLength(1);
    expect((hand.deeds.at(-1) as Extract<Deed, { kind: 'moved' }>).points[1].y).toBeCloseTo(46, 9);
  });
  it('is back where it was when it is given up or broken off', () => {
    for (const how of ['cancel', 'interrupted'] as const) {
      const hand = inHand(handleTool(handle));
      hand.pointer('down', 50, 25);
      hand.pointer('move', 70, 25);
      hand[how]();
      expect(hand.deeds.at(-1)).toEqual({ kind: 'left', id: 'r' });
      expect(done(hand.deeds)).toEqual([]);
    }
  });
});

describe('two fingers', () => {
  it('zoom and move so that what lies between them stays there', () => {
    const fingers: Fingers = new Map([
      [1, { x: 200, y: 200 }],
      [2, { x: 300, y: 200 }]
    ]);
    const middle = screenToImage({ x: 250, y: 200 }, surface.view, stage);
    const view = pinched(fingers, 2, { x: 400, y: 200 }, surface);
    expect(view.zoom).toBeCloseTo(surface.view.zoom * 2, 9);
    const after = screenToImage({ x: 300, y: 200 }, view, stage);
    expect(after.x).toBeCloseTo(middle.x, 6);
    expect(after.y).toBeCloseTo(middle.y, 6);
  });
});
