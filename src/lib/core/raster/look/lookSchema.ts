import { z } from 'zod';
import type { Look } from './look';

const finite = z.number().refine(Number.isFinite);

const step = z.discriminatedUnion('kind', [
  z
    .strictObject({
      kind: z.literal('window'),
      center: finite,
      width: finite.positive(),
      by: z.enum(['linear', 'linear exact', 'sigmoid'])
    })
    .refine(({ by, width }) => by !== 'linear' || width >= 1, 'a linear window is at least 1 wide'),
  z.strictObject({
    kind: z.literal('table'),
    first: finite,
    entries: z.array(finite).min(1).max(65_536),
    top: finite.positive()
  }),
  z.strictObject({ kind: z.literal('gamma'), gamma: finite.min(0.1).max(10) }),
  z.strictObject({ kind: z.literal('invert') }),
  z.strictObject({ kind: z.literal('equalise') }),
  z.strictObject({
    kind: z.literal('local contrast'),
    tiles: z.number().int().min(2).max(32),
    clip: finite.min(1).max(40),
    low: finite,
    high: finite
  }),
  z.strictObject({
    kind: z.literal('unsharp'),
    sigmaPx: finite.positive().max(100),
    amount: finite.min(0).max(10),
    threshold: finite.min(0)
  }),
  z.strictObject({ kind: z.literal('smooth'), sigmaPx: finite.positive().max(100) }),
  z.strictObject({ kind: z.literal('median'), radiusPx: z.union([z.literal(1), z.literal(2)]) }),
  z.strictObject({
    kind: z.literal('keep edges'),
    radiusPx: z.number().int().min(1).max(6),
    range: finite.positive()
  })
]);

export const lookSchema: z.ZodType<Look> = z.strictObject({ steps: z.array(step).max(24) });

const first = z.object({
  window: z.object({ center: finite, width: finite.min(1) }),
  inverted: z.boolean()
});

/** A look as it was stored before it was a list: one linear window and perhaps an inversion. */
export function lookOfFirstVersion(stored: unknown): Look {
  const { window, inverted } = first.parse(stored);
  const { center, width } = window;
  return {
    steps: [
      { kind: 'window', center, width, by: 'linear' },
      ...(inverted ? [{ kind: 'invert' as const }] : [])
    ]
  };
}
