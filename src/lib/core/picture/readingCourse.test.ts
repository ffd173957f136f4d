import { describe, expect, it } from 'vitest';
import { windowLook } from '../raster/look/look';
import { upright } from '../raster/orientation';
import type { ScaleGiven } from './layers/scale/scale';
import { noLayers, type PictureItem } from './pictureLayers';
import type { PictureView } from './pictureView';
import { guideCourse, readingCourse } from './readingCourse';
import { readingsOf } from './readings';

const at = (x: number) => ({ x, y: 0, uncertaintyPx: 1 });
const length = (id: string, px: number): PictureItem => ({
  id,
  kind: 'length',
  body: { ends: [at(0), at(px)] },
  by: ''
});
const named = (id: string, name: string): PictureItem => ({
  id,
  kind: 'note',
  body: { name, hidden: false, repeatOf: null },
  by: ''
});
/** A tenth of a millimetre a pixel, known to half of a hundredth. */
const scale: ScaleGiven = {
  from: 'line',
  ends: [at(0), at(1000)],
  knownMm: 100,
  knownUncertaintyMm: 0.5,
  aspect: 1
};
const view = (takenAt: string, items: PictureItem[], withScale = true): PictureView => ({
  pictureId: takenAt,
  visitId: 'v',
  patientId: 'p',
  kind: 'radiograph',
  fileName: '',
  source: 'device',
  frameMs: null,
  takenAt,
  firstTakenAt: null,
  number: 1,
  from: '',
  remarks: [],
  trayId: null,
  slot: null,
  links: [],
  placed: false,
  firstLook: windowLook({ center: 1, width: 2 }),
  firstOrientation: upright,
  fileScale: null,
  scaleDoubt: null,
  layers: { ...noLayers, scale: withScale ? scale : null, items },
  people: {},
  advice: null,
  seq: 0,
  canTakeBack: false,
  canBringBack: false,
  width: 1000,
  height: 1000,
  channels: 1,
  bitsStored: 8,
  offset: 0,
  frames: 1
});
const readingOf = ({ layers }: PictureView, id: string) =>
  readingsOf(layers, null).find(({ item }) => item.id === id)!;

describe('a reading over time', () => {
  const now = view('2026-03-01', [length('c', 330), length('x', 50), named('x', 'Crown')]);
  const pictures = [
    now,
    view('2026-01-01', [length('a', 300)]),
    view('2026-02-01', [length('b', 315), length('n', 70), named('n', 'Root')]),
    view('2025-01-01', [length('p', 280)], false)
  ];
  const measured = { ...readingOf(now, 'c'), values: readingsOf(now.layers, null)[0].values };
  const inMm = readingsOf(now.layers, {
    ...pictures[0].fileScale,
    mmPerPixelX: 0.1,
    mmPerPixelY: 0.1
  } as Parameters<typeof readingsOf>[1]);

  it('is those of its kind and name, the oldest first, in its own unit', () => {
    const course = readingCourse(
      inMm.find(({ item }) => item.id === 'c')!,
      pictures
    )!;
    expect(course.points.map(({ readingId }) => readingId)).toEqual(['a', 'b', 'c']);
    expect(course.points.map(({ value }) => Math.round(10 * value) / 10)).toEqual([30, 31.5, 33]);
    expect([course.unit, course.otherUnit]).toEqual(['mm', 1]);
    expect(course.change!.value).toBeCloseTo(3, 9);
    const [first, , last] = course.points;
    expect(course.change!.plusMinus).toBeCloseTo(Math.hypot(first.plusMinus, last.plusMinus), 9);
  });
  it('keeps names apart, and pixels from millimetres', () => {
    const crown = inMm.find(({ item }) => item.id === 'x')!;
    expect(readingCourse(crown, pictures)!.points.map(({ readingId }) => readingId)).toEqual(['x']);
    expect(readingCourse(crown, pictures)!.change).toBeNull();
    expect(readingCourse(measured, pictures)!.points.map(({ readingId }) => readingId)).toEqual(['p']);
  });
  it('of what gives no value is none', () => {
    expect(readingCourse({ ...measured, values: [] }, pictures)).toBeNull();
  });
});

it('a result of a guide over time is of all its doings, each when its last picture was taken', () => {
  const doing = (set: string, rise: number, version = 1): PictureItem => ({
    id: set,
    kind: 'guide',
    body: {
      set,
      guide: 'distal-radius',
      version,
      view: 'front',
      points: {
        'axis upper': { x: 100, y: 280, uncertaintyPx: 1 },
        'axis lower': { x: 100, y: 200, uncertaintyPx: 1 },
        styloid: { x: 60, y: 120 - rise, uncertaintyPx: 1 },
        'ulnar corner': { x: 100, y: 120, uncertaintyPx: 1 }
      }
    },
    by: ''
  });
  const pictures = [
    view('2026-05-01T08:00:00.000Z', [doing('late', 20)]),
    view('2026-01-01T08:00:00.000Z', [doing('early', 10)]),
    view('2026-03-01T08:00:00.000Z', [])
  ].map((picture) => ({ picture, layers: picture.layers }));
  const { points, change } = guideCourse('distal-radius', 'inclination', 'deg', pictures);
  const degrees = (rise: number) => (Math.atan2(rise, 40) * 180) / Math.PI;
  expect(points.map(({ readingId }) => readingId)).toEqual(['early', 'late']);
  expect(points[0].value).toBeCloseTo(degrees(10), 9);
  expect(change!.value).toBeCloseTo(degrees(20) - degrees(10), 9);
  expect(change!.plusMinus).toBeGreaterThan(points[0].plusMinus);
  const heights = guideCourse('distal-radius', 'height', 'px', pictures);
  expect(heights).toMatchObject({ points: [], otherUnit: 2, change: null });
  expect(guideCourse('heart-score', 'score', '', pictures).points).toEqual([]);
});
