import { type SeededRandom, anyBetween } from '../../random';
import type { Point } from '../../raster/orientation';
import { type Shape, ballShape, barShape, discShape, ringShape, together, without } from './shapes';

export const neighbourKinds = [
  'plate with holes',
  'screw from the side',
  'screw from its head',
  'pin',
  'wire',
  'ring',
  'chain',
  'snap',
  'button',
  'letter',
  'cast',
  'finger bone',
  'half a ruler'
] as const;
export type NeighbourKind = (typeof neighbourKinds)[number];

/** Metal, cloth and bone that lie in pictures of patients and are no markers. */
export function neighbourOf(
  kind: NeighbourKind,
  center: Point,
  reach: number,
  random: SeededRandom
): Shape[] {
  const a = anyBetween(random, 0, Math.PI);
  const [c, s] = [Math.cos(a), Math.sin(a)];
  const place = (along: number, across = 0): Point => ({
    x: center.x + (along * c - across * s) * reach,
    y: center.y + (along * s + across * c) * reach
  });
  const depth = anyBetween(random, 1.2, 6);
  switch (kind) {
    case 'plate with holes': {
      const wide = reach * anyBetween(random, 0.35, 0.6);
      const count = 2 + Math.floor(3 * random.uniform());
      const holes = Array.from({ length: count }, (_, i) =>
        discShape(place(((i + 0.5) / count - 0.5) * 1.7), wide * anyBetween(random, 0.45, 0.65), 1)
      );
      return [without(barShape(place(-1), place(1), wide, depth, { roundEnds: true }), holes)];
    }
    case 'screw from the side': {
      const thick = reach * anyBetween(random, 0.12, 0.22);
      const shank = barShape(place(-0.9), place(0.9), thick, depth, { rod: true });
      const threads = Array.from({ length: 9 }, (_, i) =>
        barShape(place(-0.8 + i * 0.16, -0.11), place(-0.76 + i * 0.16, 0.11), thick * 0.3, depth * 0.6)
      );
      return [together([shank, ...threads, ballShape(place(0.9), thick * 2, depth)])];
    }
    case 'screw from its head': {
      const wide = reach * anyBetween(random, 0.5, 1);
      const slot = barShape(place(-0.14), place(0.14), wide * 0.3, 1);
      const cross = barShape(place(0, -0.14), place(0, 0.14), wide * 0.3, 1);
      const head = discShape(center, wide, depth * 0.6);
      return [
        random.uniform() < 0.5
          ? without(head, [slot, cross])
          : without(head, [discShape(center, wide * 0.4, 1)])
      ];
    }
    case 'pin':
      return [
        barShape(place(-1), place(1), reach * anyBetween(random, 0.05, 0.1), depth, {
          rod: true,
          roundEnds: true
        })
      ];
    case 'wire':
      return [
        together(
          Array.from({ length: 12 }, (_, i) =>
            barShape(
              place(-1 + i / 6, 0.2 * Math.sin(i)),
              place(-1 + (i + 1) / 6, 0.2 * Math.sin(i + 1)),
              Math.max(1.5, reach * 0.04),
              depth,
              { rod: true, roundEnds: true }
            )
          )
        )
      ];
    case 'ring':
      return [
        ringShape(center, reach * anyBetween(random, 0.7, 1.6), reach * anyBetween(random, 0.08, 0.2), depth)
      ];
    case 'chain':
      return [
        together(
          Array.from({ length: 9 }, (_, i) =>
            ringShape(
              place(-0.9 + i * 0.22, 0.15 * Math.sin(1.3 * i)),
              reach * 0.26,
              Math.max(1.6, reach * 0.05),
              depth
            )
          )
        )
      ];
    case 'snap': {
      const wide = reach * anyBetween(random, 0.6, 1.1);
      return [ringShape(center, wide, wide * 0.12, depth), discShape(center, wide * 0.45, depth * 0.6)];
    }
    case 'button': {
      const wide = reach * anyBetween(random, 0.7, 1.2);
      const holes = [-1, 1].flatMap((u) =>
        [-1, 1].map((v) =>
          discShape(place((u * 0.12 * wide) / reach, (v * 0.12 * wide) / reach), wide * 0.13, 1)
        )
      );
      return [without(discShape(center, wide, anyBetween(random, 0.15, 0.5)), holes)];
    }
    case 'letter':
      return [
        together([
          barShape(place(-0.5, -0.3), place(0.5, -0.3), reach * 0.16, depth),
          barShape(place(0.5, -0.36), place(0.5, 0.3), reach * 0.16, depth)
        ])
      ];
    case 'cast':
      return Array.from({ length: 3 }, (_, i) =>
        barShape(
          place(-1.6, -0.7 + 0.7 * i),
          place(1.6, -0.5 + 0.6 * i),
          reach * anyBetween(random, 0.4, 0.9),
          anyBetween(random, 0.1, 0.35)
        )
      );
    case 'finger bone':
      return [
        together([
          barShape(place(-0.8), place(0.8), reach * 0.35, anyBetween(random, 0.4, 1), {
            rod: true,
            roundEnds: true
          }),
          ballShape(place(-0.85), reach * 0.5, anyBetween(random, 0.5, 1)),
          ballShape(place(0.85), reach * 0.42, anyBetween(random, 0.5, 1))
        ])
      ];
    case 'half a ruler':
      return [
        together(
          Array.from({ length: 3 }, (_, i) =>
            barShape(place(-0.4 + 0.4 * i), place(-0.4 + 0.4 * i, 0.4), reach * 0.06, depth)
          )
        )
      ];
  }
}
