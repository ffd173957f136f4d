import { describe, expect, it } from 'vitest';
import { seededRandom } from '../../random';
import { type BallScene, ballScene } from '../../phantom/scenes/ballScene';
import { rulerScene } from '../../phantom/scenes/rulerScene';
import { intraoralSensor } from '../../phantom/xray/detector';
import { patchOf, patchOfRaster } from '../../raster/patch';
import { findBars } from './findBars';
import { findRound } from './findRound';
import { judged } from './judged';
import { findRuler } from './findRuler';

const distance = (a: { x: number; y: number }, b: { x: number; y: number }) =>
  Math.hypot(a.x - b.x, a.y - b.y);

/** What a clinic knows: the ball's size, the detector's spacing, and that things are imaged larger, not smaller. */
const knowing = (scene: BallScene, mm = scene.balls[0].diameterMm) => ({
  kind: 'ball' as const,
  diameterMm: mm,
  diameterPx: { least: (mm / scene.pitchMm) * 0.97, most: (mm / scene.pitchMm) * 1.4 }
});

describe('a steel ball', () => {
  it('of 8 to 120 pixels is found by itself, its diameter within 0.3 pixels in 95 of 100, inside its own ±', () => {
    let near = 0;
    let inside = 0;
    let taken = 0;
    let wrong = 0;
    const count = 14;
    for (let k = 0; k < count; k++) {
      const random = seededRandom(1000 + k);
      const wanted = 8 * 15 ** random.uniform();
      const scene = ballScene({ width: 420, height: 460, ballsPx: [wanted] }, random, k + 1);
      const found = findRound(patchOfRaster(scene.raster), knowing(scene));
      const [truth] = scene.balls;
      if (found.outcome === 'found' && distance(found.best.center, truth.center) > 0.25 * wanted) wrong++;
      const ball = [...(found.outcome === 'found' ? [found.best] : []), ...found.others].find(
        ({ center }) => distance(center, truth.center) < 0.25 * wanted
      );
      if (!ball) continue;
      if (found.outcome === 'found') taken++;
      if (Math.abs(ball.diameterPx - wanted) < 0.3) near++;
      if (Math.abs(ball.diameterPx - wanted) < 2 * ball.uncertaintyPx) inside++;
      expect(distance(ball.center, truth.center)).toBeLessThan(0.25);
    }
    expect(wrong).toBe(0);
    expect(near).toBeGreaterThanOrEqual(0.95 * count);
    expect(inside).toBeGreaterThanOrEqual(0.9 * count);
    expect(taken).toBeGreaterThanOrEqual(0.93 * count);
  });

  it('on a detector whose range ends before the steel’s own grey is told less surely, and still inside its ±', () => {
    let inside = 0;
    let seen = 0;
    for (let k = 0; k < 6; k++) {
      const random = seededRandom(8000 + k);
      const wanted = 12 + 60 * random.uniform();
      const scene = ballScene(
        { width: 420, height: 460, ballsPx: [wanted], detector: intraoralSensor },
        random,
        k
      );
      const found = findRound(patchOfRaster(scene.raster), knowing(scene));
      const ball = found.outcome === 'found' ? found.best : found.others[0];
      if (!ball || distance(ball.center, scene.balls[0].center) > 3) continue;
      seen++;
      if (Math.abs(ball.diameterPx - wanted) < 2 * ball.uncertaintyPx) inside++;
      expect(ball.uncertaintyPx).toBeGreaterThan(0.2);
    }
    expect(seen).toBeGreaterThanOrEqual(5);
    expect(inside / seen).toBeGreaterThan(0.9);
  });

  it('is never taken without a doubt where there is none, also among round heads of bone', () => {
    for (let k = 0; k < 4; k++) {
      const scene = ballScene({ width: 420, height: 460, ballsPx: [] }, seededRandom(2000 + k), k);
      const found = findRound(patchOfRaster(scene.raster), { kind: 'ball' });
      if (found.outcome === 'found') expect(found.best.doubts, `picture ${k}`).not.toEqual([]);
    }
  });

  it('with another like it is not taken silently, but the one pointed at is', () => {
    for (let k = 0; k < 3; k++) {
      const scene = ballScene(
        { width: 420, height: 460, ballsPx: [40, 41], besideBone: false },
        seededRandom(3000 + k),
        k
      );
      const patch = patchOfRaster(scene.raster);
      const all = findRound(patch, knowing(scene));
      expect(all.outcome).toBe('several');
      for (const truth of scene.balls)
        expect(all.others.some(({ center }) => distance(center, truth.center) < 1)).toBe(true);
      const [, second] = scene.balls;
      const hint = { at: { x: second.center.x + 9, y: second.center.y - 7 }, withinPx: 25 };
      const one = findRound(patch, { ...knowing(scene), hint });
      expect(one.outcome === 'found' && distance(one.best.center, second.center)).toBeLessThan(0.5);
    }
  });

  it('partly beyond the rim of the picture is measured from what is left, and says how much that is', () => {
    let measured = 0;
    for (let k = 0; k < 4; k++) {
      const scene = ballScene(
        { width: 420, height: 460, ballsPx: [60], besideBone: false },
        seededRandom(4000 + k),
        k
      );
      const [truth] = scene.balls;
      const cut = Math.round(truth.center.x - 0.32 * truth.diameterPx);
      const width = 420 - cut;
      const whole = patchOfRaster(scene.raster);
      const data = new Float32Array(width * 460);
      for (let y = 0; y < 460; y++) data.set(whole.data.subarray(y * 420 + cut, (y + 1) * 420), y * width);
      const found = findRound(patchOf(data, { width, height: 460 }), knowing(scene));
      const ball = found.outcome === 'found' ? found.best : found.others[0];
      if (!ball || distance(ball.center, { x: truth.center.x - cut, y: truth.center.y }) > 2) continue;
      measured++;
      expect(ball.seen).toBeLessThan(0.95);
      expect(ball.doubts).toContain('cut off by the border');
      expect(Math.abs(ball.diameterPx - 60)).toBeLessThan(1);
    }
    expect(measured).toBeGreaterThanOrEqual(3);
  });

  it('that is darker than what is around it is found as well', () => {
    const scene = ballScene(
      { width: 420, height: 460, ballsPx: [50], besideBone: false },
      seededRandom(5),
      5
    );
    const patch = patchOfRaster(scene.raster);
    patch.data.forEach((value, i) => (patch.data[i] = 16_383 - value));
    const found = findRound(patch, knowing(scene));
    expect(
      found.outcome === 'found' && !found.best.bright && distance(found.best.center, scene.balls[0].center)
    ).toBeLessThan(0.5);
  });
});

it('a bar is measured from end to end, at any angle', () => {
  let found = 0;
  let near = 0;
  const count = 6;
  for (let k = 0; k < count; k++) {
    const random = seededRandom(k);
    const lengthMm = 15 + 25 * random.uniform();
    const scene = rulerScene({ kind: 'bar', lengthMm }, 180 * random.uniform(), k);
    const bars = findBars(patchOfRaster(scene.raster));
    if (bars.outcome !== 'found') continue;
    found++;
    if (Math.abs(bars.best.lengthPx - lengthMm * scene.pxPerMm) < 2 * bars.best.uncertaintyPx) near++;
  }
  expect(found).toBeGreaterThanOrEqual(count - 2);
  expect(near).toBeGreaterThanOrEqual(found - 2);
});

it('a ruler gives pixels a line, to a part in a thousand', () => {
  for (let k = 0; k < 6; k += 2) {
    const scene = rulerScene({ kind: 'ruler', lengthMm: 60 }, 15 * k, k);
    const found = findRuler(patchOfRaster(scene.raster));
    expect(found.outcome, `at ${15 * k} degrees`).toBe('found');
    if (found.outcome !== 'found') continue;
    expect(found.best.lines.length).toBe(7);
    expect(Math.abs(found.best.spacingPx / (10 * scene.pxPerMm) - 1)).toBeLessThan(1e-3);
  }
});

describe('pictures that hold nothing', () => {
  it.each([
    ['one pixel', patchOf(Uint8Array.of(5), { width: 1, height: 1 })],
    ['one grey', patchOf(new Uint16Array(90_000).fill(700), { width: 300, height: 300 })],
    ['a narrow strip', patchOf(new Uint8Array(900), { width: 3, height: 300 })]
  ])('%s: none', (_, patch) => {
    expect(findRound(patch, { kind: 'ball' })).toEqual({ outcome: 'none', others: [] });
    expect(findBars(patch)).toEqual({ outcome: 'none', others: [] });
    expect(findRuler(patch)).toEqual({ outcome: 'none', others: [] });
  });
});

it('of two candidates that are alike none is taken, and what is doubtful gives way to what is not', () => {
  const at = (confidence: number, ...doubts: string[]) => ({ confidence, doubts });
  const never = () => false;
  expect(judged([at(0.95), at(0.9)], never).outcome).toBe('several');
  expect(judged([at(0.95), at(0.5)], never)).toMatchObject({ outcome: 'found', best: { confidence: 0.95 } });
  expect(judged([at(1, 'not round', 'part hidden'), at(0.9)], never)).toMatchObject({
    outcome: 'found',
    best: { confidence: 0.9 }
  });
  expect(judged([at(0.5, 'not round')], never)).toMatchObject({ outcome: 'unsure', why: 'not round' });
  expect(judged([at(0.2)], never).outcome).toBe('none');
  expect(judged([at(1), at(0.7)], () => true)).toMatchObject({ best: { doubts: ['another like it'] } });
});
