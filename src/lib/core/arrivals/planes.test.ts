import { describe, expect, it } from 'vitest';
import { byPlane, planeName } from './planes';

type Normal = [number, number, number];
const turned = (deg: number): Normal => [0, Math.sin((deg * Math.PI) / 180), Math.cos((deg * Math.PI) / 180)];

describe('slices of one series', () => {
  it('lie together plane by plane; a small tilt is none, a plane turned about is another', () => {
    const slices: [string, Normal | null][] = [
      ['scout', [1, 0, 0]],
      ['a', turned(0)],
      ['b', turned(3)],
      ['back', turned(180)],
      ['none', null],
      ['c', turned(-4)],
      ['steep', turned(20)],
      ['none too', null]
    ];
    const planes = byPlane(slices, ([, normal]) => normal);
    expect(planes.map((plane) => plane.map(([name]) => name).join(' '))).toEqual([
      'scout',
      'a b c',
      'back',
      'none none too',
      'steep'
    ]);
  });
  it('are named by the axis that their plane is square to', () => {
    expect(
      [[1, 0, 0], [0, -1, 0], turned(8), turned(45)].map((normal) => planeName(normal as Normal))
    ).toEqual(['sagittal', 'coronal', 'axial', 'oblique']);
  });
});
