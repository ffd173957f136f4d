import { describe, expect, it } from 'vitest';
import { noLayers } from '../picture/pictureLayers';
import type { PictureView } from '../picture/pictureView';
import { seededRandom } from '../random';
import { fullMouth } from '../tray/shipped/fullMouth';
import { areaOf, sheetNames, sheetOf } from './paper';
import { correctionOf } from './printer';
import { gridSheets, traySheet, trueSheets } from './printSheets';
import { overlapMm, tilesOf } from './tiles';
import { trueSize } from './trueSize';

describe('tiles of a picture', () => {
  it('are one where it fits, and two of one size for 300 x 200 mm on 190 x 257', () => {
    const area = { width: 190, height: 257 };
    expect(tilesOf({ width: 190, height: 257 }, area)).toHaveLength(1);
    expect(tilesOf({ width: 300, height: 200 }, area).map(({ part }) => part)).toEqual([
      { left: 0, top: 0, width: 155, height: 200 },
      { left: 145, top: 0, width: 155, height: 200 }
    ]);
  });

  it('show all of it, fit the sheet, overlap by the same everywhere, and are no more than needed', () => {
    const random = seededRandom(11);
    for (let round = 0; round < 300; round++) {
      const area = { width: 60 + 200 * random.uniform(), height: 60 + 200 * random.uniform() };
      const picture = { width: 5 + 700 * random.uniform(), height: 5 + 700 * random.uniform() };
      const tiles = tilesOf(picture, area, 1000);
      const along = (of: 'width' | 'height', from: 'left' | 'top', by: 'column' | 'row') => {
        const line = tiles.filter((tile) => tile[by === 'column' ? 'row' : 'column'] === 0);
        expect(line[0].part[from]).toBe(0);
        const last = line.at(-1)!.part;
        expect(last[from] + last[of]).toBeCloseTo(picture[of], 6);
        line.slice(1).forEach((tile, i) => {
          const before = line[i].part;
          expect(before[from] + before[of] - tile.part[from]).toBeCloseTo(overlapMm, 6);
        });
        for (const tile of line) expect(tile.part[of]).toBeLessThanOrEqual(area[of] + 1e-6);
        const fewer = line.length - 1;
        if (fewer > 0) expect(fewer * area[of] - (fewer - 1) * overlapMm).toBeLessThan(picture[of]);
      };
      along('width', 'left', 'column');
      along('height', 'top', 'row');
    }
  });

  it('are refused where there is no size, no room, or no end', () => {
    const area = { width: 100, height: 100 };
    expect(() => tilesOf({ width: 0, height: 10 }, area)).toThrow(/needs a size, got 0 mm/);
    expect(() => tilesOf({ width: NaN, height: 10 }, area)).toThrow(RangeError);
    expect(() => tilesOf({ width: 10, height: 10 }, { width: overlapMm, height: 100 })).toThrow(
      /larger than/
    );
    expect(() => tilesOf({ width: 2000, height: 2000 }, area)).toThrow(/sheets are more than 36/);
  });
});

describe('pictures laid out on a sheet', () => {
  const random = seededRandom(5);
  const some = (count: number) =>
    Array.from({ length: count }, (_, i) => ({
      key: String(i),
      size: { width: 20 + 300 * random.uniform(), height: 20 + 300 * random.uniform() }
    }));

  it('keep their proportions, stay inside, and touch none of the others, in rows of any number', () => {
    for (const paper of sheetNames)
      for (const [across, down, lying] of [
        [1, 1, false],
        [2, 3, true],
        [6, 8, false],
        [4, 2, true]
      ] as const) {
        const sheet = sheetOf(paper, lying);
        const area = areaOf(sheet);
        const pictures = some(across * down + 3);
        const sheets = gridSheets(pictures, sheet, { across, down, captions: true });
        expect(sheets.flatMap(({ placed }) => placed.map(({ key }) => key))).toEqual(
          pictures.map(({ key }) => key)
        );
        for (const { placed } of sheets)
          for (const [i, { key, at }] of placed.entries()) {
            const { size } = pictures[Number(key)];
            expect(at.width / at.height).toBeCloseTo(size.width / size.height, 6);
            expect(at.left).toBeGreaterThanOrEqual(area.left - 1e-9);
            expect(at.left + at.width).toBeLessThanOrEqual(area.left + area.width + 1e-9);
            expect(at.top + at.height).toBeLessThanOrEqual(area.top + area.height + 1e-9);
            for (const other of placed.slice(i + 1)) expect(apart(at, other.at)).toBe(true);
          }
      }
  });

  const apart = (
    a: { left: number; top: number; width: number; height: number },
    b: { left: number; top: number; width: number; height: number }
  ) =>
    a.left + a.width <= b.left + 1e-9 ||
    b.left + b.width <= a.left + 1e-9 ||
    a.top + a.height <= b.top + 1e-9 ||
    b.top + b.height <= a.top + 1e-9;

  it('lie as on their tray: the upper jaw over the lower one, right at the left', () => {
    const slots = fullMouth.pattern.slots;
    const sheet = sheetOf('A4', true);
    const { placed } = traySheet(
      slots.map((slot) => ({ key: slot.id, size: { width: 1300, height: 1000 }, slot })),
      sheet,
      true
    );
    const middle = new Map(
      placed.map(({ key, at }) => [key, { x: at.left + at.width / 2, y: at.top + at.height / 2 }])
    );
    for (const a of slots)
      for (const b of slots) {
        if (a.at.y < b.at.y - 0.2) expect(middle.get(a.id)!.y).toBeLessThan(middle.get(b.id)!.y);
        if (a.at.x < b.at.x - 0.2) expect(middle.get(a.id)!.x).toBeLessThan(middle.get(b.id)!.x);
      }
    placed.forEach(({ at }, i) =>
      placed.slice(i + 1).forEach((other) => expect(apart(at, other.at)).toBe(true))
    );
  });

  it('are as large as they are, in the middle, or go over several sheets with marks', () => {
    const sheet = sheetOf('A4', false);
    const [one, ...tiles] = trueSheets(
      [
        { key: 'wrist', size: { width: 110, height: 168 } },
        { key: 'legs', size: { width: 300, height: 900 } }
      ],
      sheet,
      true
    );
    expect(one).toMatchObject({
      tile: '',
      marks: [],
      placed: [{ at: { width: 110, height: 168, left: 50 } }]
    });
    expect(tiles).toHaveLength(8);
    expect(tiles[7]).toMatchObject({ tile: '8 of 8, row 4, column 2' });
    for (const { placed, marks } of tiles) {
      expect(marks).toHaveLength(4);
      expect(placed[0].at.width / placed[0].part.width).toBeCloseTo(300, 9);
      expect(placed[0].at.height / placed[0].part.height).toBeCloseTo(900, 9);
    }
  });
});

describe('the true size of a picture', () => {
  const scale = {
    source: 'marker' as const,
    mmPerPixelX: 0.1,
    mmPerPixelY: 0.2,
    relativeUncertainty: 0.01,
    description: 'a ball of 10 mm'
  };
  const view = (more: object) =>
    ({
      width: 1000,
      height: 400,
      fileScale: scale,
      firstOrientation: { quarterTurns: 0, mirrored: false },
      layers: noLayers,
      ...more
    }) as unknown as PictureView;

  it('counts pixels as wide and as high as they are, turned or not, with two standard uncertainties', () => {
    expect(trueSize(view({}))).toEqual({
      width: 100,
      height: 80,
      plusMinusShare: 0.02,
      source: 'a ball of 10 mm'
    });
    const turned = trueSize(view({ firstOrientation: { quarterTurns: 1, mirrored: true } }))!;
    expect([turned.width, turned.height].map((mm) => Math.round(mm * 1e6) / 1e6)).toEqual([80, 100]);
  });

  it('is not known without a scale', () => {
    expect(trueSize(view({ fileScale: null }))).toBeNull();
  });
});

it('asks a printer that prints short for so much more', () => {
  expect(correctionOf(null)).toEqual({ width: 1, height: 1 });
  const { width, height } = correctionOf({ acrossMm: 99, downMm: 100.5 });
  expect([width * 99, height * 100.5].map((mm) => mm.toFixed(9))).toEqual(['100.000000000', '100.000000000']);
});
