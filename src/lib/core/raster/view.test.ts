import { describe, expect, it } from 'vitest';
import {
  type Stage,
  fitted,
  fromShared,
  panned,
  screenToImage,
  shared,
  toScreen,
  visibleWindow,
  zoomedAbout
} from './view';

const stage: Stage = {
  picture: { width: 1300, height: 1700 },
  orientation: { quarterTurns: 1, mirrored: true },
  screen: { width: 900, height: 600 }
};

describe('view', () => {
  it('goes to the screen and back', () => {
    const view = { center: { x: 400, y: 300 }, zoom: 0.37 };
    const back = screenToImage(toScreen({ x: 123.25, y: 1650.5 }, view, stage), view, stage);
    expect(back.x).toBeCloseTo(123.25, 9);
    expect(back.y).toBeCloseTo(1650.5, 9);
  });
  it('fits the oriented picture whole', () => {
    const view = fitted(stage);
    for (const corner of [
      { x: 0, y: 0 },
      { x: 1300, y: 1700 }
    ]) {
      const seen = toScreen(corner, view, stage);
      expect(seen.x).toBeGreaterThanOrEqual(-1e-9);
      expect(seen.x).toBeLessThanOrEqual(900 + 1e-9);
      expect(seen.y).toBeGreaterThanOrEqual(-1e-9);
      expect(seen.y).toBeLessThanOrEqual(600 + 1e-9);
    }
  });
  it('fits a part of it, and shows the same part of another beside it', () => {
    const part = { left: 600, top: 200, width: 450, height: 300 };
    const cropped: Stage = { ...stage, part };
    expect(fitted(cropped)).toEqual({ center: { x: 825, y: 350 }, zoom: 2 });
    const beside: Stage = { ...stage, part: { left: 0, top: 0, width: 900, height: 600 } };
    const view = { center: { x: 600 + 45, y: 200 + 270 }, zoom: 6 };
    expect(fromShared(shared(view, cropped), beside)).toEqual({ center: { x: 90, y: 540 }, zoom: 3 });
  });
  it('keeps what is under the pointer when it zooms', () => {
    const view = fitted(stage);
    const pointer = { x: 100, y: 520 };
    const before = screenToImage(pointer, view, stage);
    const after = screenToImage(pointer, zoomedAbout(view, pointer, 2.5, stage.screen), stage);
    expect(after.x).toBeCloseTo(before.x, 9);
    expect(after.y).toBeCloseTo(before.y, 9);
  });
  it('shows the same part of a picture of another size, turned the same way', () => {
    const half: Stage = {
      ...stage,
      picture: { width: 650, height: 850 },
      screen: { width: 450, height: 600 }
    };
    const view = zoomedAbout(fitted(stage), { x: 700, y: 120 }, 3, stage.screen);
    const beside = fromShared(shared(view, stage), half);
    const seen = screenToImage({ x: 450, y: 300 }, view, stage);
    const seenBeside = screenToImage({ x: 225, y: 300 }, beside, half);
    expect(seenBeside.x * 2).toBeCloseTo(seen.x, 9);
    expect(seenBeside.y * 2).toBeCloseTo(seen.y, 9);
    expect(beside.zoom / fitted(half).zoom).toBeCloseTo(3, 9);
  });
  it('moves the picture with the hand', () => {
    const view = fitted(stage);
    const before = toScreen({ x: 10, y: 10 }, view, stage);
    const after = toScreen({ x: 10, y: 10 }, panned(view, 15, -7), stage);
    expect(after.x - before.x).toBeCloseTo(15, 9);
    expect(after.y - before.y).toBeCloseTo(-7, 9);
  });

  it('knows which pixels are in sight, however the picture is turned', () => {
    const view = { center: { x: 850, y: 650 }, zoom: 2 };
    const seen = visibleWindow(view, stage)!;
    expect([seen.width, seen.height]).toEqual([300, 450]);
    for (const corner of [
      { x: 1, y: 1 },
      { x: 899, y: 599 }
    ]) {
      const { x, y } = screenToImage(corner, view, stage);
      expect(
        x >= seen.left && x <= seen.left + seen.width && y >= seen.top && y <= seen.top + seen.height
      ).toBe(true);
    }
    expect(visibleWindow(fitted(stage), stage)).toEqual({ left: 0, top: 0, width: 1300, height: 1700 });
    expect(visibleWindow({ center: { x: 9000, y: 0 }, zoom: 1 }, stage)).toBeNull();
  });
});
