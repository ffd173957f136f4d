import { describe, expect, it } from 'vitest';
import { type GuidePoints, guideLayer } from '../../picture/layers/guide/guide';
import { seededRandom } from '../../random';
import type { Point } from '../../raster/orientation';
import { evaluated } from './evaluate';
import { guideWritten } from './written';
import { measureKinds, writtenMeasures } from './writtenMeasures';
import { type WrittenGuide, type WrittenResult, writtenGuideSchema } from './writtenSchema';

const source = { author: 'Ourselves', year: 2026, title: 'House rule' };
const landmark = (key: string, x: number, y: number) => ({ key, name: key, where: 'There', x, y });
const result = (more: Partial<WrittenResult>): WrittenResult => ({
  key: 'one',
  name: 'One',
  measure: 'length',
  view: 'front',
  of: ['a', 'b'],
  source,
  normal: null,
  mind: '',
  ...more
});
const written = (results: WrittenResult[], more: Partial<WrittenGuide> = {}): WrittenGuide => ({
  format: 'yonder-tray guide',
  formatVersion: 1,
  name: 'Gap',
  trade: 'bones',
  views: [
    {
      key: 'front',
      name: 'From the front',
      drawing: null,
      landmarks: ['a', 'b', 'c', 'd', 'e'].map((key, i) => landmark(key, 0.2 * i, 0.5)),
      lines: [['a', 'b']]
    }
  ],
  results,
  ...more
});
const keys = ['a', 'b', 'c', 'd', 'e'];
/** A circle of radius 50 about (60, 70) for as many landmarks as are asked for. */
const round = keys.map((_, i): Point => ({
  x: 60 + 50 * Math.cos(1.1 * i + 0.3),
  y: 70 + 50 * Math.sin(1.1 * i + 0.3)
}));
const known: Record<(typeof writtenMeasures)[number], { points: Point[]; value: number }> = {
  length: {
    points: [
      { x: 10, y: 10 },
      { x: 40, y: 50 }
    ],
    value: 50
  },
  path: {
    points: [
      { x: 0, y: 0 },
      { x: 30, y: 40 },
      { x: 60, y: 80 }
    ],
    value: 100
  },
  angle: {
    points: [
      { x: 10, y: 0 },
      { x: 0, y: 0 },
      { x: 10, y: 10 }
    ],
    value: 45
  },
  'angle between lines': {
    points: [
      { x: 0, y: 0 },
      { x: 10, y: 0 },
      { x: 20, y: 0 },
      { x: 10, y: 10 }
    ],
    value: 45
  },
  tilt: {
    points: [
      { x: 10, y: 10 },
      { x: 0, y: 0 }
    ],
    value: 45
  },
  'distance from a line': {
    points: [
      { x: 5, y: 7 },
      { x: 0, y: 0 },
      { x: 10, y: 0 }
    ],
    value: 7
  },
  ratio: {
    points: [
      { x: 0, y: 0 },
      { x: 0, y: 30 },
      { x: 0, y: 0 },
      { x: 40, y: 0 }
    ],
    value: 0.75
  },
  'share along a line': {
    points: [
      { x: 3, y: 9 },
      { x: 0, y: 0 },
      { x: 12, y: 0 }
    ],
    value: 25
  },
  height: {
    points: [
      { x: 3, y: 9 },
      { x: 30, y: 29 }
    ],
    value: 20
  },
  circle: { points: round, value: 100 }
};

describe('a guide that a clinic wrote', () => {
  it.each(writtenMeasures)('gives the known answer for %s, in mm where it has a scale', (measure) => {
    const { points, value } = known[measure];
    const of = keys.slice(0, points.length);
    const guide = guideWritten({
      key: 'k',
      version: 1,
      written: writtenGuideSchema.parse(written([result({ measure, of })]))
    });
    const placed = Object.fromEntries(of.map((key, i) => [key, { ...points[i], uncertaintyPx: 0.5 }]));
    const [bare] = evaluated(guide, { front: { points: placed, scale: null } });
    const scale = {
      source: 'line' as const,
      mmPerPixelX: 0.1,
      mmPerPixelY: 0.1,
      relativeUncertainty: 0.01,
      description: ''
    };
    const [scaled] = evaluated(guide, { front: { points: placed, scale } });
    if (bare.outcome !== 'value' || scaled.outcome !== 'value') throw new Error('no value');
    const isLength = measureKinds[measure].power === 1;
    expect(bare.value.value).toBeCloseTo(value, 6);
    expect(bare.value.unit).toBe(isLength ? 'px' : measureKinds[measure].unit);
    expect(scaled.value.value).toBeCloseTo(isLength ? value / 10 : value, 6);
    expect(scaled.value.unit).toBe(measureKinds[measure].unit);
  });

  it('tells a ± that holds where landmarks are placed with a known spread', () => {
    const random = seededRandom(2711);
    const spread = 1.5;
    for (const measure of writtenMeasures) {
      const { points, value } = known[measure];
      // Wide enough apart that a pixel and a half is little against them.
      const truth = points.map(({ x, y }) => ({ x: 20 * x, y: 20 * y }));
      const should = measureKinds[measure].power === 1 ? 20 * value : value;
      const of = keys.slice(0, points.length);
      const guide = guideWritten({ key: 'k', version: 1, written: written([result({ measure, of })]) });
      let held = 0;
      const times = 200;
      for (let i = 0; i < times; i++) {
        const placed = Object.fromEntries(
          of.map((key, k) => [
            key,
            {
              x: truth[k].x + spread * random.normal(),
              y: truth[k].y + spread * random.normal(),
              uncertaintyPx: spread
            }
          ])
        );
        const [found] = evaluated(guide, { front: { points: placed, scale: null } });
        if (found.outcome !== 'value') throw new Error(measure);
        if (Math.abs(found.value.value - should) <= found.value.plusMinus) held++;
      }
      expect(held / times, measure).toBeGreaterThan(0.9);
    }
  });

  it('has a range with its source, and stands within or above it', () => {
    const guide = guideWritten({
      key: 'k',
      version: 1,
      written: written([
        result({ measure: 'ratio', of: ['a', 'b', 'c', 'd'], normal: { low: null, high: 1 } })
      ])
    });
    const points = Object.fromEntries(
      [0, 20, 0, 10].map((x, i) => [keys[i], { x, y: 0, uncertaintyPx: 0.1 }])
    );
    expect(evaluated(guide, { front: { points, scale: null } })[0]).toMatchObject({ standing: 'above' });
    expect(guide.formulas[0].normal?.source).toEqual(source);
  });

  it.each([
    ['no such view', written([result({ view: 'side' })]), 'One is measured in side, which is no view'],
    ['no such landmark', written([result({ of: ['a', 'z'] })]), 'One needs z, which is no landmark'],
    ['too few', written([result({ measure: 'angle', of: ['a', 'b'] })]), 'One needs 3 landmarks and has 2'],
    ['too many', written([result({ of: ['a', 'b', 'c'] })]), 'One needs 2 landmarks and has 3'],
    ['one twice', written([result({ of: ['a', 'a'] })]), 'One needs the same landmark twice'],
    ['two results alike', written([result({}), result({})]), 'two things have the key one'],
    [
      'a range that falls',
      written([result({ normal: { low: 5, high: 2 } })]),
      'a range rises from low to high'
    ],
    [
      'a loose line',
      written([result({})], {
        views: [
          {
            key: 'front',
            name: 'From the front',
            drawing: null,
            landmarks: [landmark('a', 0, 0), landmark('b', 1, 1)],
            lines: [['a', 'q']]
          }
        ]
      }),
      'a line of From the front ends at q'
    ]
  ])('is refused in words: %s', (_, given, why) => {
    const read = writtenGuideSchema.safeParse(given);
    expect(read.success).toBe(false);
    expect(read.error!.issues.map(({ message }) => message).join('; ')).toContain(why);
  });

  it('goes along with its doing: names, lines and words are its own', () => {
    const body = guideLayer.schema.parse({
      set: 's',
      guide: '0190aaaa-0000-7000-8000-000000000001',
      version: 3,
      view: 'front',
      points: { b: { x: 1, y: 2, uncertaintyPx: 1 }, a: { x: 5, y: 2, uncertaintyPx: 1 } },
      written: written([result({})])
    } satisfies GuidePoints);
    const { placed } = guideLayer;
    expect(placed!.namesOf!(body)).toEqual(['a', 'b']);
    expect(placed!.drawn(body).shapes).toHaveLength(1);
    expect(placed!.says!(body, 'fdi')).toBe('Gap');
  });
});
