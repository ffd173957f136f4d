import { describe, expect, it } from 'vitest';
import { Unreadable } from '../../versioned';
import { windowLook } from '../../raster/look/look';
import { distanceTo } from '../drawing';
import { layersOf, scaleInUse, withLayer, noLayers } from '../pictureLayers';
import { type LayerName, layerKindOf, layerKinds, readLayer } from './all';
import {
  type LongGiven,
  type RoundGiven,
  type ScaleGiven,
  scaleGiven,
  seenOf,
  takenOver
} from './scale/scale';

const at = (x: number, y: number) => ({ x, y, uncertaintyPx: 1 });
const ends = [at(0, 0), at(30, 40)];
/** Points evenly round a circle of radius 10 about (50, 50). */
const round = (count: number) =>
  Array.from({ length: count }, (_, i) => {
    const angle = (2 * Math.PI * i) / count;
    return at(50 + 10 * Math.cos(angle), 50 + 10 * Math.sin(angle));
  });

const ball: RoundGiven = {
  from: 'marker',
  name: 'Ball',
  knownMm: 10,
  toleranceMm: 0,
  center: { x: 40, y: 30 },
  diameterPx: 50,
  uncertaintyPx: 0.1,
  aspect: 1.25
};

/** A body of each kind as it is stored today, and how every earlier version was stored, with what it is read as. */
const today: Record<LayerName, unknown> = {
  look: windowLook({ center: 10, width: 20 }, true),
  orientation: { quarterTurns: 3, mirrored: true },
  crop: {
    window: { left: 2, top: 3.5, width: 40, height: 30 },
    orientation: { quarterTurns: 1, mirrored: false, tiltDeg: -3.2 }
  },
  scale: { from: 'line', ends, knownMm: 10, knownUncertaintyMm: 0.1, aspect: 1.5 },
  veils: { veils: [{ left: 1, top: 2, width: 30, height: 8, frames: [0, 2] }], only: null, looked: true },
  taken: { at: '2026-03-04T05:06:00.000Z' },
  about: { name: 'Right hip', remark: 'before the cast' },
  grade: { grade: 'limited', reasons: ['motion', 'overlap'] },
  finding: { place: { kind: 'tooth', tooth: 36 }, words: 'Caries, far side' },
  length: { ends },
  angle: { points: [at(10, 0), at(0, 0), at(0, 10)] },
  curve: { points: round(9).slice(0, 5) },
  'to line': { points: [at(3, 7), at(0, 0), at(10, 0)] },
  'two lines': { points: [at(0, 0), at(10, 0), at(20, 0), at(30, 10)] },
  ratio: { points: [at(0, 0), at(30, 40), at(0, 0), at(0, 25)] },
  circle: { points: round(20) },
  ellipse: { points: round(20).map(({ x, y }) => at(x, y / 2)) },
  area: { points: [at(0, 0), at(10, 0), at(10, 20), at(0, 20)] },
  region: { points: [at(0, 0), at(10, 0), at(10, 20)] },
  profile: { points: [at(0, 0), at(10, 0)] },
  guide: {
    set: 'set-one',
    guide: 'distal-radius',
    version: 1,
    view: 'front',
    points: { 'axis upper': at(40, 95), 'axis lower': at(41, 62) }
  },
  arrow: { points: [at(0, 0), at(10, 0)] },
  text: { at: at(4, 5), words: 'Loose' },
  label: { at: at(4, 5), place: { kind: 'tooth', tooth: 36 } },
  freehand: { way: [0, 5, 9].map((x) => ({ x, y: x * x })) },
  outline: { way: [0, 5, 9].map((x) => ({ x, y: x * x })) },
  note: { name: 'Crown', hidden: false, repeatOf: null },
  common: { pairs: [{ here: { x: 1, y: 2 }, there: { x: 3.5, y: 4 } }] },
  kept: {
    name: 'Crown',
    kind: 'detail',
    remark: '',
    keptAt: '2026-03-04T05:06:07.000Z',
    frame: 0,
    window: { left: 1.5, top: 0, width: 20, height: 10 },
    orientation: { quarterTurns: 1, mirrored: false },
    look: windowLook({ center: 10, width: 20 }),
    drawings: [
      {
        shapes: [{ kind: 'line', from: { x: 0, y: 1 }, to: { x: 2, y: 3 }, head: true }],
        wordsAt: { x: 2, y: 3 },
        words: '5 ± 1 px'
      }
    ],
    drawn: true,
    place: 2.5
  },
  confirmed: { as: '{}' }
};
const earlier: { kind: LayerName; version: number; body: unknown }[] = [
  {
    kind: 'guide',
    version: 1,
    body: {
      set: 'set-one',
      guide: 'distal-radius',
      version: 1,
      view: 'front',
      points: { 'axis upper': at(40, 95), 'axis lower': at(41, 62) }
    }
  },
  { kind: 'orientation', version: 1, body: today.orientation },
  { kind: 'kept', version: 1, body: today.kept },
  { kind: 'common', version: 1, body: today.common },
  { kind: 'scale', version: 5, body: today.scale },
  { kind: 'scale', version: 4, body: today.scale },
  { kind: 'look', version: 2, body: windowLook({ center: 10, width: 20 }, true) },
  { kind: 'look', version: 1, body: { window: { center: 10, width: 20 }, inverted: true } },
  {
    kind: 'scale',
    version: 3,
    body: { from: 'line', ends, knownMm: 10, knownUncertaintyMm: 0.1, aspect: 1.5 }
  },
  {
    kind: 'scale',
    version: 2,
    body: { from: 'line', ends, knownMm: 10, knownUncertaintyMm: 0.1, aspect: 1.5 }
  },
  {
    kind: 'scale',
    version: 1,
    body: {
      source: 'line',
      mmPerPixelX: 0.2,
      mmPerPixelY: 0.3,
      relativeUncertainty: 0.02,
      description: 'a line over 10 mm',
      ends,
      knownMm: 10,
      knownUncertaintyMm: 0.1
    }
  },
  { kind: 'length', version: 1, body: { kind: 'length', ends } }
];

describe.each(layerKinds.map((kind) => [kind.kind, kind] as const))('the layer %s', (name) => {
  const kind = layerKindOf(name);
  it('is read as it was stored, and carries no key that nobody asked for', () => {
    expect(readLayer(name, kind.version, JSON.parse(JSON.stringify(today[name])))).toEqual(today[name]);
    expect(() => readLayer(name, kind.version, { ...(today[name] as object), planted: 1 })).toThrow(
      Unreadable
    );
  });
  it('is read from every earlier version as what it was', () => {
    for (let version = 1; version < kind.version; version++) {
      const old = earlier.filter((each) => each.kind === name && each.version === version);
      expect(old, `${name} ${version}`).toHaveLength(1);
      const read = readLayer(name, version, old[0].body);
      if (name === 'scale')
        expect(read).toMatchObject({ from: 'line', ends, knownMm: 10, aspect: expect.closeTo(1.5) });
      else expect(read).toEqual(today[name]);
    }
  });
  it('has as many point names as points, is drawn through them, and can be moved', () => {
    const { placed, measure } = kind;
    if (!placed) return;
    const body = today[name];
    const points = placed.pointsOf(body);
    if (placed.further) expect(placed.pointNames.length).toBeLessThanOrEqual(points.length);
    else expect(placed.pointNames).toHaveLength(points.length);
    const { shapes } = placed.drawn(body);
    // A round path is drawn in short straight pieces.
    if (shapes.length > 0) for (const point of points) expect(distanceTo(shapes, point)).toBeLessThan(0.01);
    const moved = points.map((point) => ({ ...point, x: point.x + 5 }));
    const after = placed.withPoints(body, moved);
    expect(placed.pointsOf(after)).toEqual(moved);
    expect(kind.schema.safeParse(after).success).toBe(true);
    if (measure) {
      const before = measure.measured(body, null);
      expect(measure.measured(after, null).value).toBeCloseTo(before.value, 9);
      expect(measure.coordinates(body).points).toEqual(expect.arrayContaining(points));
    }
  });
});

it('a scale taken over from another picture is the same, and says whose it is', () => {
  const own = scaleInUse({ ...noLayers, scale: today.scale as ScaleGiven }, null)!;
  const given = takenOver(own, 'picture-one', 'Right wrist');
  expect(readLayer('scale', 5, given)).toEqual(given);
  const over = scaleInUse({ ...noLayers, scale: given }, null)!;
  expect(over).toMatchObject({
    source: 'line',
    mmPerPixelX: own.mmPerPixelX,
    mmPerPixelY: expect.closeTo(own.mmPerPixelY, 12),
    relativeUncertainty: own.relativeUncertainty,
    description: expect.stringContaining('Right wrist')
  });
});

describe('measured layers', () => {
  it('give their worked values', () => {
    const value = (name: LayerName) => layerKindOf(name).measure!.measured(today[name], null);
    expect(value('length')).toMatchObject({ value: 50, unit: 'px' });
    expect(value('angle').value).toBeCloseTo(90, 9);
    expect(value('two lines').value).toBeCloseTo(45, 9);
    expect(value('ratio')).toMatchObject({ value: 2, unit: '' });
    expect(value('to line').value).toBeCloseTo(7, 9);
    expect(value('circle').value).toBeCloseTo(20, 6);
    expect(value('ellipse').value).toBeCloseTo(20, 6);
    expect(layerKindOf('ellipse').measure!.also![0].measured(today.ellipse, null).value).toBeCloseTo(10, 6);
    expect(value('area')).toMatchObject({ value: 200, unit: 'px2' });
    // Four ninths of a circle of radius 10.
    expect(value('curve').value).toBeCloseTo((10 * Math.PI * 8) / 9, 0);
  });
});

describe('the layers of a picture', () => {
  const step = (
    seq: number,
    kind: LayerName,
    body: unknown,
    item: string | null = null,
    version = layerKindOf(kind).version
  ) => ({
    seq,
    act: String(seq),
    by: 'ann',
    kind,
    item,
    version,
    body,
    undoes: null
  });
  it('come from its log, old versions and new ones, in the order they were first made', () => {
    const layers = layersOf([
      step(1, 'look', earlier.find(({ kind, version }) => kind === 'look' && version === 1)!.body, null, 1),
      step(2, 'length', today.length, 'one'),
      step(3, 'angle', today.angle, 'two'),
      step(4, 'length', { ends: [at(1, 1), at(2, 2)] }, 'one')
    ]);
    expect(layers.look).toEqual(today.look);
    expect(layers.items.map((item) => [item.id, item.kind])).toEqual([
      ['one', 'length'],
      ['two', 'angle']
    ]);
  });
  it('give a scale of their own before the file’s', () => {
    const layers = withLayer(noLayers, { kind: 'scale', item: null, body: today.scale });
    const scale = scaleInUse(layers, null)!;
    // 30 px across and 40 * 1.5 = 60 px down are 10 mm.
    expect(scale.mmPerPixelX).toBeCloseTo(10 / Math.hypot(30, 60), 12);
    expect(scale.mmPerPixelY / scale.mmPerPixelX).toBeCloseTo(1.5, 12);
    expect(scaleInUse(noLayers, scale)).toBe(scale);
  });
  it('give a scale by a round marker, whatever the shape of the pixels', () => {
    const body = ball;
    expect(readLayer('scale', 3, body)).toEqual(body);
    const scale = scaleInUse(withLayer(noLayers, { kind: 'scale', item: null, body }), null)!;
    expect([scale.mmPerPixelX, scale.mmPerPixelY, scale.source]).toEqual([0.2, 0.25, 'marker']);
    // Its fit to 0.1 of 50, and half a centimetre of height at a metre.
    expect(scale.relativeUncertainty).toBeCloseTo(Math.hypot(0.002, 0.005), 6);
    const { shapes } = layerKindOf('scale').placed!.drawn(body);
    expect(distanceTo(shapes, { x: 65, y: 30 })).toBeLessThan(0.05);
    expect(distanceTo(shapes, { x: 40, y: 50 })).toBeLessThan(0.05);
  });
  it('bring the scale of a marker to the bone, and say so', () => {
    const marker: RoundGiven = {
      ...ball,
      knownMm: 25,
      diameterPx: 280,
      uncertaintyPx: 0.2,
      aspect: 1,
      bone: {
        apartMm: 50,
        plusMinusMm: 10,
        sourceToDetectorMm: 1150,
        sourcePlusMinusMm: 0,
        magnification: { value: 1.15, uncertainty: 0 }
      }
    };
    expect(readLayer('scale', 5, marker)).toEqual(marker);
    const scale = scaleGiven(marker);
    // The source is 1000 mm from the marker and 1050 mm from the bone.
    expect(scale.mmPerPixelX).toBeCloseTo((25 / 280) * 1.05, 12);
    expect(scale.relativeUncertainty).toBeCloseTo(Math.hypot(0.2 / 280, 10 / Math.sqrt(3) / 1050), 9);
    expect(scale.description).toBe('Ball, the bone 50 mm nearer the detector, give or take 10 mm');
    const behind = { ...marker, bone: { ...marker.bone!, apartMm: -1000 } };
    expect(() => readLayer('scale', 5, behind)).toThrow(Unreadable);
  });
  it('are told by a bar or ruler from end to end, at the bone, and moved by either end', () => {
    const long: LongGiven = {
      from: 'long marker',
      name: 'Ruler',
      knownMm: 50,
      toleranceMm: 0.1,
      ends: [at(10, 20), at(130, 60)],
      aspect: 2.25
    };
    expect(readLayer('scale', 6, long)).toEqual(long);
    // 120 to the side and 40 rows of 2.25 down are 150 widths of a pixel.
    expect(seenOf(long).sizePx).toBeCloseTo(150, 12);
    const scale = scaleGiven(long);
    expect([scale.mmPerPixelX, scale.mmPerPixelY]).toEqual([50 / 150, 0.75]);
    const ofEnds = Math.hypot(at(10, 20).uncertaintyPx, at(130, 60).uncertaintyPx) / 150;
    expect(scale.relativeUncertainty).toBeCloseTo(Math.hypot(ofEnds, 0.1 / Math.sqrt(3) / 50, 0.005), 9);
    expect(scale.description).toBe('Ruler, taken to be at the height of the bone');
    const { pointsOf, withPoints } = layerKindOf('scale').placed!;
    expect(withPoints(long, [at(11, 20), pointsOf(long)[1]])).toEqual({
      ...long,
      ends: [at(11, 20), at(130, 60)]
    });
    const nowhere = { ...long, ends: [at(10, 20), at(10, 20)] };
    expect(() => readLayer('scale', 6, nowhere)).toThrow(Unreadable);
  });
  it('move a marker by its middle, and size it by its edge, which is then as sure as the hand', () => {
    const { pointsOf, withPoints } = layerKindOf('scale').placed!;
    const marker = { ...ball, aspect: 1 };
    const [middle, edge] = pointsOf(marker);
    expect(edge.x - middle.x).toBe(25);
    const moved = withPoints(marker, [{ ...middle, x: 44 }, edge]);
    expect(moved).toEqual({ ...marker, center: { x: 44, y: 30 } });
    const sized = withPoints(marker, [middle, { x: 40, y: 60, uncertaintyPx: 1.5 }]);
    expect(sized).toEqual({ ...marker, diameterPx: 60, uncertaintyPx: 3 });
    expect(withPoints(marker, [middle, { ...middle, uncertaintyPx: 1.5 }])).toEqual(marker);
  });
  it('of an unknown kind are never guessed at', () => {
    expect(() => layersOf([{ ...step(1, 'look', {}), kind: 'dream' }])).toThrow(Unreadable);
  });
});
