import { describe, expect, it } from 'vitest';
import { windowLook } from '../raster/look/look';
import { type Orientation, upright } from '../raster/orientation';
import { type Stage, fitted, panned, toScreen } from '../raster/view';
import { keptLayer } from './layers/kept/kept';
import { drawingsToKeep, placeBetween, shownWindow, viewOfKept } from './keptViews';
import { noLayers } from './pictureLayers';
import { readingsOf, wordsOf } from './readings';

const stageOf = (orientation: Orientation, pixelAspect?: number): Stage => ({
  picture: { width: 400, height: 200, pixelAspect },
  orientation,
  screen: { width: 300, height: 240 }
});
const turnedOnce: Orientation = { quarterTurns: 1, mirrored: true };

describe('what a stage shows of a picture', () => {
  it('is no more than the picture, and nothing when the picture is out of sight', () => {
    const stage = stageOf(upright);
    expect(shownWindow(fitted(stage), stage)).toEqual({ left: 0, top: 0, width: 400, height: 200 });
    expect(shownWindow({ center: { x: 100, y: 50 }, zoom: 3 }, stage)).toEqual({
      left: 50,
      top: 10,
      width: 100,
      height: 80
    });
    expect(shownWindow(panned(fitted(stage), 5000, 0), stage)).toBeNull();
  });

  it.each([
    ['upright', upright, undefined],
    ['turned and mirrored', turnedOnce, undefined],
    ['with tall pixels', turnedOnce, 2]
  ] as const)('is shown again in the same place of the picture, %s', (_, orientation, pixelAspect) => {
    const stage = stageOf(orientation, pixelAspect);
    const view = { center: { x: 90, y: 110 }, zoom: 2.5 };
    const window = shownWindow(view, stage)!;
    const again = { ...stage, screen: { width: window.width * 4, height: window.height * 4 } };
    const seen = viewOfKept({ window } as Parameters<typeof viewOfKept>[0], again.screen);
    expect(seen.zoom).toBeCloseTo(4, 9);
    const point = { x: 210, y: 60 };
    const [before, after] = [toScreen(point, view, stage), toScreen(point, seen, again)];
    const left = stage.screen.width / 2 + (window.left - view.center.x) * view.zoom;
    const top = stage.screen.height / 2 + (window.top - view.center.y) * view.zoom;
    expect(after.x).toBeCloseTo(((before.x - left) / view.zoom) * 4, 6);
    expect(after.y).toBeCloseTo(((before.y - top) / view.zoom) * 4, 6);
  });
});

it('keeps drawings as lines and words that a later change leaves alone, and leaves out what is hidden', () => {
  const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 1 });
  const layers = {
    ...noLayers,
    items: [
      { id: 'one', kind: 'length' as const, body: { ends: [at(0, 0), at(30, 40)] }, by: '' },
      { id: 'two', kind: 'arrow' as const, body: { points: [at(5, 5), at(9, 9)] }, by: '' },
      { id: 'two', kind: 'note' as const, body: { name: '', hidden: true, repeatOf: null }, by: '' }
    ]
  };
  const drawings = drawingsToKeep(readingsOf(layers, null), 1, (reading) => wordsOf(reading, 'fdi'));
  expect(drawings).toHaveLength(1);
  expect(drawings[0].words).toMatch(/^50\S* ± \S+ px$/);
  expect(drawings[0].shapes).toContainEqual(
    expect.objectContaining({ kind: 'line', from: { x: 0, y: 0 }, to: { x: 30, y: 40 } })
  );
  const body = {
    name: 'Detail',
    kind: 'measured',
    remark: '',
    keptAt: '2026-03-04T05:06:07.000Z',
    frame: 0,
    window: { left: 0, top: 0, width: 10, height: 10 },
    orientation: upright,
    look: windowLook({ center: 10, width: 20 }),
    drawings,
    drawn: true,
    place: 0
  };
  expect(keptLayer.schema.parse(body)).toEqual(body);
});

it('finds a place between any two others', () => {
  expect(placeBetween(undefined, undefined)).toBe(0);
  expect(placeBetween(undefined, 4)).toBe(3);
  expect(placeBetween(4, undefined)).toBe(5);
  expect(placeBetween(4, 5)).toBe(4.5);
});
