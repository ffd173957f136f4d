import { seededRandom } from '../../random';
import type { FigurePaint, FigureView, FigureWish } from './figure';

/** What people stick on and hang up, before walls of theirs. */
export const figurePaints: readonly FigurePaint[] = [
  { marker: [0.95, 0.85, 0.16], plumb: [0.82, 0.16, 0.12], wall: [1, 0.98, 0.94] },
  { marker: [0.1, 0.7, 0.3], plumb: [0.1, 0.25, 0.8], wall: [0.9, 0.95, 1] },
  { marker: [0.95, 0.35, 0.1], plumb: [0.85, 0.8, 0.1], wall: [0.8, 0.75, 0.7] },
  { marker: [0.85, 0.1, 0.5], plumb: [0.1, 0.6, 0.2], wall: [0.5, 0.55, 0.6] },
  { marker: [0.1, 0.4, 0.9], plumb: [0.9, 0.2, 0.1], wall: [1, 1, 1] }
];

/** Somebody who stands as people do, and how far the camera is held askew. */
export function anyFigure(seed: number): { wish: FigureWish; rollDeg: number } {
  const random = seededRandom(seed);
  const any = (most: number) => most * (2 * random.uniform() - 1);
  const stance = () => ({ leftMm: any(25), frontMm: any(25), rollDeg: any(7), pitchDeg: any(7) });
  return { wish: { seed, head: stance(), chest: stance(), pelvis: stance() }, rollDeg: any(4) };
}

/** What a landmark of posture's view is called among the figure's known points. */
export const onBody = (key: string, from: FigureView): string =>
  from === 'front'
    ? key
    : ({ head: `head ${from}`, chest: `chest ${from}`, hip: `hip ${from}`, 'pelvis front': `pelvis ${from}` }[
        key
      ] ?? key);
