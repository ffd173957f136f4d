import { noiseAt } from '../xray/weave';
import type { Anatomy, Tissue } from './sector';

const fluid: Tissue = { echo: 0.012, loss: 0.0005 };
const boneSurface: Tissue = { echo: 2.4, loss: 1.1 };

/** Inside is negative. */
const oval = (x: number, y: number, cx: number, cy: number, a: number, b: number, turn = 0): number => {
  const [c, s] = [Math.cos(turn), Math.sin(turn)];
  const u = (c * (x - cx) + s * (y - cy)) / a;
  const v = (-s * (x - cx) + c * (y - cy)) / b;
  return Math.hypot(u, v) - 1;
};

/**
 * An ewe with a lamb: skin and muscle, the womb's wall, fluid, and the lamb in it with skull, ribs that throw shadows,
 * a heart that beats, and the buttons of the placenta. The lamb drifts and kicks.
 */
export function eweWithLamb(seed: number, beatsPerMinute = 168): Anatomy {
  return (x, depth, seconds) => {
    if (depth < 3) return { echo: 1.1, loss: 0.01 };
    const layers = 0.5 + 0.28 * noiseAt(x * 0.12, depth * 0.5, 1, seed);
    if (depth < 17) return { echo: layers * (depth % 5 < 1 ? 1.5 : 0.7), loss: 0.009 };
    const womb = oval(x, depth, 0, 68, 56, 46) + 0.05 * noiseAt(x * 0.06, depth * 0.06, seconds * 0.15, seed);
    if (womb > 0.07) return { echo: 0.42 + 0.2 * noiseAt(x * 0.1, depth * 0.1, 4, seed), loss: 0.008 };
    if (womb > -0.01) return { echo: 0.9, loss: 0.006 };
    for (let i = 0; i < 5; i++) {
      const at = 2.3 + i * 0.95;
      const d = oval(x, depth, 51 * Math.cos(at), 68 + 41 * Math.sin(at), 8.5, 5.5, at);
      if (d < 0) return d > -0.35 ? { echo: 0.75, loss: 0.006 } : { echo: 0.4, loss: 0.005 };
    }
    return lamb(x, depth, seconds, seed, beatsPerMinute) ?? fluid;
  };
}

function lamb(x: number, depth: number, seconds: number, seed: number, beats: number): Tissue | null {
  const drift = 2.2 * Math.sin(seconds * 1.1);
  const [px, py] = [x - drift, depth - 70 - 1.2 * Math.cos(seconds * 0.9)];
  const head = oval(px, py, -29, -6, 13, 10.5, 0.25);
  if (head < 0)
    return head > -0.13
      ? boneSurface
      : { echo: 0.2 + 0.12 * noiseAt(px * 0.5, py * 0.5, 2, seed), loss: 0.004 };
  const kick = 3 * Math.max(0, Math.sin(seconds * 2.6));
  const leg = Math.abs(px - 20 - (py - 14) * 0.35) < 1.9 && py > 12 && py < 29 + kick;
  if (leg) return { echo: 1.5, loss: 0.35 };
  const trunk = oval(px, py, 6, 2, 26, 14.5, 0.08);
  if (trunk > 0) return null;
  if (trunk > -0.06) return { echo: 0.8, loss: 0.006 };
  const spine = Math.abs(py + 8.6 - px * 0.06);
  if (spine < 1.7 && px > -14)
    return Math.floor((px + 40) / 4) % 2 === 0 ? boneSurface : { echo: 0.6, loss: 0.01 };
  if (px > -12 && px < 14 && py < -2 && (((px + 60) % 5) + 5) % 5 < 1.05) return { echo: 1.6, loss: 0.3 };
  const phase = (seconds * beats) / 60;
  const squeeze = 1 + 0.17 * Math.sin(2 * Math.PI * phase);
  const heart = oval(px, py, -8, 3, 6.4 * squeeze, 5.2 * squeeze);
  if (heart < 0) {
    const chamber = Math.min(
      oval(px, py, -10, 2, 2.3 * squeeze, 2.8 * squeeze),
      oval(px, py, -5.8, 3.6, 2.1 * squeeze, 2.6 * squeeze)
    );
    return chamber < 0 ? fluid : { echo: 0.55, loss: 0.005 };
  }
  if (oval(px, py, 20, 4, 4.4, 3.4) < 0) return fluid;
  return { echo: 0.34 + 0.16 * noiseAt(px * 0.35, py * 0.35, 7, seed), loss: 0.005 };
}

/** A joint from the side: skin, tendon in fine lines, two bones with their shadows, fluid between that moves. */
export function joint(seed: number): Anatomy {
  return (x, depth, seconds) => {
    if (depth < 2) return { echo: 1.1, loss: 0.01 };
    const bend = 0.12 * Math.sin(seconds * 2.2);
    const leftTop = 24 + 0.012 * (x + 20) ** 2 + bend * 20;
    const rightTop = 23 + 0.01 * (x - 24) ** 2 - bend * 24;
    const surface = x < 1.5 ? leftTop : rightTop;
    const gap = Math.abs(x - 1.5) < 3.4;
    if (!gap && depth > surface) return depth < surface + 1.3 ? boneSurface : { echo: 0.02, loss: 0.6 };
    if (gap && depth > 24)
      return depth < 31 + 2 * noiseAt(x * 0.5, 1, 2, seed) ? fluid : { echo: 0.12, loss: 0.02 };
    if (!gap && depth > surface - 1.5) return { echo: 0.03, loss: 0.002 };
    if (depth > 15 + bend * 8)
      return { echo: 0.4 + 0.15 * noiseAt(x * 0.3, depth * 0.3, 5, seed), loss: 0.006 };
    if (depth > 8)
      return { echo: 0.55 + 0.5 * Math.max(0, noiseAt(x * 0.08, depth * 2.2, 3, seed)), loss: 0.006 };
    return { echo: 0.5 + 0.2 * noiseAt(x * 0.2, depth * 0.6, 1, seed), loss: 0.008 };
  };
}
