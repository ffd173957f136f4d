import { z } from 'zod';
import type { Look } from './look';

const finite = z.number().refine(Number.isFinite);

const off = z.literal(true).optional();

const step = z.discriminatedUnion('kind', [
  z
    .strictObject({
      kind: z.literal('window'),
      off,
      center: finite,
      width: finite.positive(),
      by: z.enum(['linear', 'linear exact', 'sigmoid'])
    })
    .refine(({ by, width }) => by !== 'linear' || width >= 1, 'a linear window is at least 1 wide'),
  z.strictObject({
    kind: z.literal('table'),
    off,
    first: finite,
    entries: z.array(finite).min(1).max(65_536),
    top: finite.positive()
  }),
  z.strictObject({ kind: z.literal('gamma'), off, gamma: finite.min(0.1).max(10) }),
  z.strictObject({ kind: z.literal('invert'), off }),
  z.strictObject({ kind: z.literal('equalise'), off }),
  z.strictObject({
    kind: z.literal('local contrast'),
    off,
    tiles: z.number().int().min(2).max(32),
    clip: finite.min(1).max(40),
    low: finite,
    high: finite
  }),
  z.strictObject({
    kind: z.literal('unsharp'),
    off,
    sigmaPx: finite.positive().max(100),
    amount: finite.min(0).max(10),
    threshold: finite.min(0)
  }),
  z.strictObject({ kind: z.literal('smooth'), off, sigmaPx: finite.positive().max(100) }),
  z.strictObject({ kind: z.literal('median'), off, radiusPx: z.union([z.literal(1), z.literal(2)]) }),
  z.strictObject({
    kind: z.literal('keep edges'),
    off,
    radiusPx: z.number().int().min(1).max(6),
    range: finite.positive()
  })
]);

const mostSteps = 24;

export const lookSchema: z.ZodType<Look> = z.strictObject({
  steps: z.array(step).max(mostSteps),
  knot: z.number().int().min(0).max(mostSteps).optional()
});

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
