import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { type CorneaWish, cornea } from '../phantom/eye/cornea';
import { absoluteScale, colourOf, relativeScale } from './colourScale';
import { outlinesAtLeast } from './contours';
import { contoursOf, corneaMap } from './corneaMap';
import { lensValues, sagOf } from './lens';
import {
  belowOverAbove,
  bestConic,
  corneaIndex,
  refractivePower,
  tangentialPower,
  wavefrontOf
} from './maps';
import type { MeasuredCornea } from './measured';
import { areaOf } from '../measurement/geometry';

/** A cornea known exactly, seen out to a radius; `spreadMm` is how much its apex radius is unsure. */
function exact(wish: CorneaWish, seenMm = 6, spreadMm = 0): MeasuredCornea {
  const shape = cornea(wish);
  const other = cornea({ ...wish, flatMm: wish.flatMm + spreadMm });
  return {
    heights: shape,
    coverage: { radiusMm: seenMm, share: 1, covered: new Uint8Array(1), side: 1 },
    hasData: (x, y) => Math.hypot(x, y) <= seenMm,
    uncertaintyOf: (number) => Math.abs(number(other) - number(shape))
  };
}

const sphere = exact({ flatMm: 7.8 });
const cone: CorneaWish = { flatMm: 7.8, cone: { x: 0.3, y: 1.4, heightMm: 0.03, widthMm: 1 } };

describe('powers', () => {
  it('refractive: (n - 1) / R at the axis, more towards the rim of a sphere, as Snell has it', () => {
    expect(refractivePower(sphere.heights, 0, 0)).toBeCloseTo(376 / 7.8, 3);
    // At 3 mm by hand: leans 22.6199 deg, bent by 6.3788, crosses 27.4539 mm behind the vertex.
    const lean = Math.asin(3 / 7.8);
    const bent = lean - Math.asin(3 / 7.8 / corneaIndex);
    const crosses = 7.8 - Math.sqrt(7.8 ** 2 - 9) + 3 / Math.tan(bent);
    expect(refractivePower(sphere.heights, 3, 0)).toBeCloseTo((1000 * corneaIndex) / crosses, 3);
    expect(refractivePower(sphere.heights, 3, 0)).toBeGreaterThan(refractivePower(sphere.heights, 1, 0));
  });
  it('below over above: nothing for a sphere, plus for a cone below, unknown where a place was not seen', () => {
    expect(belowOverAbove(sphere.heights)).toBeCloseTo(0, 6);
    expect(belowOverAbove(cornea(cone))).toBeGreaterThan(0.5);
    expect(belowOverAbove(sphere.heights, (x, y) => y < 2)).toBeNaN();
  });
});

it('a sphere’s wavefront has its spherical aberration and nothing else of note', () => {
  const terms = wavefrontOf(sphere.heights);
  // (n - 1) (Q - Q0) r^4 / (8 R^3), of which 1 / (6 sqrt 5) is the balanced term; higher powers add a little.
  const rim = (0.376 * 1000 * 81) / (1.376 ** 2 * 8 * 7.8 ** 3);
  expect(Math.abs(terms[12])).toBeGreaterThan(rim / (6 * Math.sqrt(5)));
  expect(Math.abs(terms[12])).toBeLessThan(1.25 * (rim / (6 * Math.sqrt(5))));
  for (const k of [3, 5, 6, 7, 8, 9]) expect(Math.abs(terms[k])).toBeLessThan(1e-6);
  const perfect = wavefrontOf(cornea({ flatMm: 7.8, q: -1 / corneaIndex ** 2 }));
  expect(Math.abs(perfect[12])).toBeLessThan(1e-4);
});

describe('maps', () => {
  it('hold values where there is data and none elsewhere, with their unit and index', () => {
    const map = corneaMap(exact({ flatMm: 7.8 }, 3), 'axial', { stepMm: 0.5, radiusMm: 5 });
    const { side, values } = map;
    const middle = (side - 1) / 2;
    expect([map.unit, map.index, map.over]).toEqual(['D', 1.3375, null]);
    expect(values[middle * side + middle]).toBeCloseTo(337.5 / 7.8, 2);
    expect(values[middle * side]).toBeNaN();
    // A curvature needs slopes on both sides, so its map ends a quarter of a millimetre before the data do.
    const told = ({ values, side }: typeof map, x: number) =>
      !Number.isNaN(values[((side - 1) / 2) * side + (side - 1) / 2 + x / 0.5]);
    const bent = corneaMap(exact({ flatMm: 7.8 }, 3), 'tangential', { stepMm: 0.5, radiusMm: 5 });
    expect([told(map, 3), told(bent, 3), told(bent, 2.5), told(bent, 0)]).toEqual([true, false, true, true]);
    expect(() => corneaMap(sphere, 'axial', { stepMm: 0 })).toThrow('step');
  });
  it('heights over the best sphere and asphere: nothing where it is one, and the cone stands out', () => {
    const conic = exact({ flatMm: 7.7, q: -0.3 });
    const finite = (values: Float64Array) => [...values].filter(Number.isFinite);
    const grid = { stepMm: 0.5, radiusMm: 4 };
    expect(Math.max(...finite(corneaMap(sphere, 'over sphere', grid).values).map(Math.abs))).toBeLessThan(
      0.01
    );
    const asphere = corneaMap(conic, 'over asphere', grid);
    expect(Math.max(...finite(asphere.values).map(Math.abs))).toBeLessThan(0.01);
    expect(asphere.over).toBe('asphere of 7.70 mm, Q -0.30');
    const { values, side } = corneaMap(exact(cone), 'over sphere', { stepMm: 0.5, radiusMm: 2.5 });
    const highest = values.indexOf(Math.max(...finite(values)));
    expect((Math.floor(highest / side) - (side - 1) / 2) * 0.5).toBeCloseTo(1.5, 0);
  });
  it('contours enclose what lies above a level, in mm', () => {
    // Heights over the best sphere of a tall round cap: a contour of it is a circle about its place.
    const map = { ...corneaMap(sphere, 'axial'), values: new Float64Array(0) };
    const at = (i: number) => (i - (map.side - 1) / 2) * map.stepMm;
    map.values = Float64Array.from({ length: map.side ** 2 }, (_, k) => {
      const r = Math.hypot(at(k % map.side) - 1, at(Math.floor(k / map.side)) + 0.5);
      return r > 4 ? NaN : 10 - r;
    });
    const [{ level, outlines }] = contoursOf(map, [8]);
    expect(level).toBe(8);
    expect(outlines).toHaveLength(1);
    const [outline] = outlines;
    expect(areaOf(outline)).toBeCloseTo(Math.PI * 4, 1);
    for (const { x, y } of outline) expect(Math.hypot(x - 1, y + 0.5)).toBeCloseTo(2, 1);
  });
});

describe('outlines', () => {
  it('at every value of a small grid: inside by the even-odd rule just where the value is high', () => {
    const random = seededRandom(12);
    for (let round = 0; round < 40; round++) {
      const side = 7;
      const values = Float64Array.from({ length: side * side }, () =>
        random.uniform() < 0.15 ? NaN : random.uniform()
      );
      const outlines = outlinesAtLeast(values, side, 0.5);
      values.forEach((value, k) => {
        const [x, y] = [k % side, Math.floor(k / side)];
        let crossings = 0;
        for (const outline of outlines)
          outline.forEach((p, i) => {
            const q = outline[(i + 1) % outline.length];
            if (p.y > y !== q.y > y && x < p.x + ((y - p.y) / (q.y - p.y)) * (q.x - p.x)) crossings++;
          });
        expect(crossings % 2 === 1).toBe(value >= 0.5);
      });
    }
  });
  it('of nothing are none, of everything one round the rim', () => {
    expect(outlinesAtLeast([NaN, 0, 0, 0], 2, 1)).toEqual([]);
    const [rim, ...more] = outlinesAtLeast([1, 1, 1, 1], 2, 1);
    expect(more).toEqual([]);
    expect(areaOf(rim)).toBeCloseTo(3.5, 6);
  });
});

describe('colours', () => {
  const light = (colour: string) => {
    const [r, g, b] = [1, 3, 5].map((i) => (parseInt(colour.slice(i, i + 2), 16) / 255) ** 2.2);
    return { r, g, b };
  };
  it('grow lighter from step to step, to people who see no red or no green as well', () => {
    // What is left of red and green to them (Viénot, Brettel and Mollon, 1999).
    const sights: ((c: { r: number; g: number; b: number }) => number)[] = [
      ({ r, g, b }) => 0.2126 * r + 0.7152 * g + 0.0722 * b,
      ({ r, g, b }) => 0.112 * r + 0.888 * g + 0.004 * (b - r),
      ({ r, g, b }) => 0.292 * r + 0.708 * g + 0.02 * (b - r)
    ];
    for (const scale of [absoluteScale('D'), absoluteScale('µm')])
      for (const sight of sights) {
        const seen = scale.steps.map(({ colour }) => Math.cbrt(sight(light(colour))));
        for (let i = 1; i < seen.length; i++) expect(seen[i] - seen[i - 1]).toBeGreaterThan(0.015);
      }
  });
  it('absolute: the same values, the same colours; no value, no colour', () => {
    const scale = absoluteScale('D');
    expect(scale.steps[8]).toMatchObject({ from: 42.75, to: 44.25 });
    expect(colourOf(scale, 43.27)).toBe(scale.steps[8].colour);
    expect(colourOf(scale, 20)).toBe(scale.steps[0].colour);
    expect(colourOf(scale, NaN)).toBeNull();
  });
  it('relative: steps of a fixed list about the eye’s own middle', () => {
    const map = corneaMap(exact({ flatMm: 8, steepMm: 7.5 }), 'axial');
    const scale = relativeScale(map);
    expect(scale.stepSize).toBe(0.25);
    expect(scale.steps).toHaveLength(15);
    const inside = [...map.values].filter(
      (value) => value >= scale.steps[1].from - 0.25 && value < scale.steps[13].to + 0.25
    );
    expect(inside.length / [...map.values].filter(Number.isFinite).length).toBeGreaterThan(0.96);
    expect(() => relativeScale({ ...map, values: new Float64Array(4).fill(NaN) })).toThrow(
      'nothing was seen'
    );
  });
});

describe('for lenses', () => {
  const sphereSag = (chord: number, r = 7.8) => r - Math.sqrt(r * r - (chord / 2) ** 2);
  it('a height within the data is the surface’s own', () => {
    const sag = sagOf(exact({ flatMm: 7.8 }, 6, 0.01), 10, 40);
    expect(sag.sagMm).toBeCloseTo(sphereSag(10), 6);
    expect(sag.trust).toBe('measured');
    expect(sag.beyondMm).toBe(0);
    // Its ± follows from the radius.
    expect(sag.uncertaintyMm).toBeCloseTo(sphereSag(10) - sphereSag(10, 7.81), 5);
  });
  it('beyond the data it is marked, lies between straight and round, and its ± holds a round going on', () => {
    const sag = sagOf(exact({ flatMm: 7.8 }, 5), 12, 0);
    expect(sag.trust).toBe('estimate');
    expect(sag.beyondMm).toBeCloseTo(1, 1);
    expect(sag.sagMm).toBeLessThan(sphereSag(12));
    expect(sag.sagMm + 2 * sag.uncertaintyMm).toBeGreaterThan(sphereSag(12));
    expect(sag.description).toContain('beyond what was seen');
    const far = sagOf(exact({ flatMm: 7.8 }, 4.5), 14, 0);
    expect(far.trust).toBe('rough estimate');
    expect(far.uncertaintyMm).toBeGreaterThan(2 * sag.uncertaintyMm);
  });
  it('a gap is bridged, a lid is not', () => {
    const gap = {
      ...exact({ flatMm: 7.8 }),
      hasData: (x: number, y: number) => Math.hypot(x, y) < 2 || Math.hypot(x, y) > 2.4
    };
    expect(sagOf(gap, 10, 90).trust).toBe('measured');
    const lid = { ...exact({ flatMm: 7.8 }), hasData: (_: number, y: number) => y > -3 };
    expect(sagOf(lid, 10, 90).beyondMm).toBeCloseTo(2, 1);
    expect(sagOf(lid, 10, 0).trust).toBe('measured');
  });
  it('a toric’s values: radii, axis, shape, and a higher sag along the steep meridian', () => {
    const values = lensValues(exact({ flatMm: 8, steepMm: 7.5, axisDeg: 25, q: -0.2 }, 6.5, 0.01));
    expect(values.flatMm).toBeCloseTo(8, 1);
    expect(values.steepMm).toBeCloseTo(7.5, 1);
    expect(values.flatAxisDeg).toBeCloseTo(25, 0);
    expect(values.q).toBeCloseTo(-0.2, 1);
    expect(values.radiusUncertaintyMm).toBeCloseTo(0.01, 2);
    expect(values.sags.map(({ chordMm }) => chordMm)).toEqual([10, 10, 12, 12, 14, 14, 15, 15]);
    expect(values.sags[1].sagMm).toBeGreaterThan(values.sags[0].sagMm + 0.05);
  });
  it('nothing seen there, no height; a chord of nothing is refused', () => {
    const little = exact({ flatMm: 7.8 }, 1);
    expect(() => sagOf(little, 10, 0)).toThrow('too little was seen');
    expect(lensValues(little).sags).toEqual([]);
    expect(() => sagOf(sphere, 0, 0)).toThrow('between 0 and 20 mm');
  });
});

it('the best conic’s own heights are what its rms is of', () => {
  const { elevationUm, rmsUm } = bestConic(cornea(cone));
  expect(Math.abs(elevationUm(0.3, 1.4))).toBeGreaterThan(rmsUm);
  expect(tangentialPower(cornea(cone), 0.3, 1.4)).toBeGreaterThan(337.5 / 7.8);
});
