import { describe, expect, it } from 'vitest';
import type { Patch } from '../../raster/patch';
import { profileOf } from './edgeProfile';
import { edgeSigns, greysAcross } from './edgeSigns';
import { followedOutline, levelsOf } from './followed';

/** A soft round step: 1000 within, 200 outside, half way at the radius, so many pixels wide. */
function roundStep(radiusPx: number, softPx: number, dense = 1000, open = 200) {
  const width = Math.ceil(2 * radiusPx + 16 * softPx + 40);
  const center = { x: width / 2 + 0.3, y: width / 2 - 0.2 };
  const data = new Float32Array(width * width);
  for (let y = 0; y < width; y++)
    for (let x = 0; x < width; x++) {
      const r = Math.hypot(x + 0.5 - center.x, y + 0.5 - center.y);
      data[y * width + x] = open + (dense - open) / (1 + Math.exp((r - radiusPx) / softPx));
    }
  const patch: Patch = { left: 0, top: 0, width, height: width, picture: { width, height: width }, data };
  const bright = dense > open;
  const outline = followedOutline(
    levelsOf(patch, 250),
    { center, radiusPx: 0.9 * radiusPx, contrast: bright ? 1 : -1 },
    0
  )!;
  return { patch, outline, signs: edgeSigns(patch, outline, profileOf(patch, outline, bright)!, {})! };
}

describe('the signs of an edge', () => {
  it('tell how wide it is: the step over its steepest slope', () => {
    // A logistic step is a quarter of the step steep.
    expect(roundStep(30, 1.5).signs.widthPx).toBeCloseTo(4 * 1.5, 0);
    expect(roundStep(30, 0.8).signs.widthPx).toBeCloseTo(4 * 0.8, 0);
  });

  it('are as good as the same when everything is twice as large, and when dark and bright change places', () => {
    const plain = roundStep(20, 1).signs.numbers;
    const twice = roundStep(40, 2).signs.numbers;
    const dark = roundStep(20, 1, 200, 1000).signs.numbers;
    for (let i = 0; i < greysAcross; i++) {
      expect(twice[i], `grey ${i}`).toBeCloseTo(plain[i], 1);
      expect(dark[i], `grey ${i}`).toBeCloseTo(plain[i], 2);
    }
  });

  it('say what is known, and that nothing is', () => {
    const { patch, outline } = roundStep(20, 1);
    const profile = profileOf(patch, outline, true)!;
    const of = (known: Parameters<typeof edgeSigns>[3]) => [
      ...edgeSigns(patch, outline, profile, known)!.numbers
    ];
    const silent = of({});
    const differ = (other: number[]) => other.flatMap((value, i) => (value === silent[i] ? [] : [i]));
    expect(differ(of({ relationship: 'linear' }))).toHaveLength(1);
    expect(differ(of({ throughMiddle: 5 }))).toHaveLength(2);
    const noise = { greys: Float64Array.of(200, 600, 1000), deviations: Float64Array.of(8, 4, 2) };
    const noisy = of({ noise });
    expect(differ(noisy).length).toBeGreaterThan(5);
    expect(Math.min(...noisy.filter((_, i) => noisy[i] !== silent[i]))).toBeLessThan(0);
  });

  it('are none where nothing rises', () => {
    const { patch, outline } = roundStep(20, 1);
    const flat = { ...patch, data: patch.data.map(() => 400) };
    const profile = profileOf(flat, outline, true);
    expect(profile && edgeSigns(flat, outline, profile, {})).toBeNull();
  });
});
