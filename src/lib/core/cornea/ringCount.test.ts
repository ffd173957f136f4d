import { describe, expect, it } from 'vitest';
import { filled, miscountedOut } from './ringCount';
import { meridians } from './ringEdges';

const spacing = 8;
/** A ring that is wide one way and narrow the other, as of a toric cornea. */
const ring = (k: number) =>
  Float64Array.from(
    { length: meridians },
    (_, m) => 60 + spacing * k + 4 * Math.cos((4 * Math.PI * m) / meridians)
  );
const within = (m: number, from: number, to: number) => (m - from + meridians) % meridians < to - from;

describe('a ring that lost count', () => {
  it.each([
    ['one meridian', 100, 101, 2],
    ['a wedge', 40, 70, 2],
    ['a wedge over the first meridian', 240, 270, -2],
    ['nearly half', 10, 120, 2]
  ])('is taken out where it did: %s', (_, from, to, by) => {
    const [radii, other] = [ring(10), ring(10 + by)];
    const found = radii.map((r, m) => (within(m, from, to) ? other[m] : r));
    const lost = miscountedOut(found, spacing);
    found.forEach((r, m) => {
      expect(lost[m]).toBe(within(m, from, to) ? 1 : 0);
      if (lost[m]) expect(r).toBeNaN();
      else expect(r).toBe(radii[m]);
    });
  });
  it('on two sides by different counts, both', () => {
    const found = ring(10).map((r, m) => (within(m, 20, 40) ? r + 16 : within(m, 130, 150) ? r - 16 : r));
    const lost = miscountedOut(found, spacing);
    expect(lost.reduce((sum, is) => sum + is, 0)).toBe(40);
  });
  it('beside a lid’s wide gap nothing is taken for a leap, and nothing of a ring that kept count', () => {
    const gap = ring(10).map((r, m) =>
      within(m, 150, 220) ? NaN : within(m, 75, 150) ? r + 0.12 * (m - 75) : r
    );
    expect(miscountedOut(gap.slice(), spacing).some((is) => is === 1)).toBe(false);
    expect(miscountedOut(new Float64Array(meridians).fill(NaN), spacing).some((is) => is === 1)).toBe(false);
  });
});

describe('gaps', () => {
  it('that are narrow are bridged from both sides', () => {
    const radii = ring(6);
    const found = radii.map((r, m) => (within(m, 30, 38) ? NaN : r));
    const out = filled(found, null, 1);
    out.forEach((r, m) => expect(Math.abs(r - radii[m])).toBeLessThan(0.2));
  });
  it('of meridians that lost count are bridged too, and not from their own wrong expectation', () => {
    const radii = ring(6);
    const found = radii.map((r, m) => (within(m, 30, 60) ? NaN : r));
    const astray = radii.map((r, m) => (within(m, 30, 60) ? r + 16 : r));
    const lost = Uint8Array.from(radii, (_, m) => (within(m, 30, 60) ? 1 : 0));
    const bridged = filled(found, astray, 1, lost);
    const trusting = filled(found, astray, 1);
    expect(Math.abs(bridged[45] - radii[45])).toBeLessThan(2);
    expect(Math.abs(trusting[45] - radii[45])).toBeGreaterThan(10);
  });
  it('that are wide follow the expectation, shifted as the edges beside them', () => {
    const radii = ring(6);
    const found = radii.map((r, m) => (within(m, 100, 180) ? NaN : r + 1));
    const out = filled(found, radii, 1);
    expect(out[101] - radii[101]).toBeGreaterThan(0.9);
    expect(out[140] - radii[140]).toBeLessThan(0.4);
    expect(out[140]).toBeGreaterThan(radii[140]);
  });
});
