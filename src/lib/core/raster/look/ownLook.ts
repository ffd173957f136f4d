import { z } from 'zod';
import { type Look, type LookStep, activeSteps, isInverted, windowOf } from './look';
import { lookSchema } from './lookSchema';

/**
 * A look that a clinic has named, for pictures of any exposure and depth: where its window lies is told as shares of the
 * window a picture opens with, 0 at its dark end and 1 at its bright end; all else is the same for every picture.
 */
export const ownLookSchema = z.strictObject({
  from: z.number().min(-20).max(20),
  to: z.number().min(-20).max(20),
  /** Those behind the window. */
  steps: z
    .array(z.unknown())
    .max(23)
    .transform((steps, context): LookStep[] => {
      const read = lookSchema.safeParse({ steps });
      if (read.success && read.data.steps.every(({ kind }) => !leads.has(kind))) return read.data.steps;
      context.addIssue({ code: 'custom', message: 'these are no steps of a look' });
      return z.NEVER;
    })
});
export type OwnLook = z.infer<typeof ownLookSchema>;

export interface NamedLook {
  lookId: string;
  name: string;
  look: OwnLook;
}

/** What maps a picture's own values: an own look has its window for that. */
const leads = new Set<LookStep['kind']>(['window', 'table', 'equalise']);

/**
 * A picture's look as one of the clinic's own.
 * @param first the look the picture opens with
 * @returns null where the look does not begin with its window, or the first one has none to tell it by
 */
export function ownLookOf(look: Look, first: Look): OwnLook | null {
  const [window, whole] = [windowOf(look), windowOf(first)];
  const [lead, ...rest] = activeSteps(look);
  if (!window || !whole || lead.kind !== 'window' || rest.some(({ kind }) => leads.has(kind))) return null;
  const share = shareOf(first);
  const ends = [window.center - window.width / 2, window.center + window.width / 2].map(share);
  const [from, to] = [Math.min(...ends), Math.max(...ends)];
  const read = ownLookSchema.safeParse({ from, to, steps: isInverted(first) ? turnedOver(rest) : rest });
  return read.success ? read.data : null;
}

/** Steps that do to values the other way round what these do to values as they are. */
const turnedOver = (steps: readonly LookStep[]): LookStep[] =>
  steps[0]?.kind === 'invert' ? steps.slice(1) : [{ kind: 'invert' }, ...steps];

/** One of the clinic's own looks for one picture. @param first the look it opens with */
export function withOwnLook({ from, to, steps }: OwnLook, first: Look): Look {
  const whole = windowOf(first);
  // A picture with a table of its own keeps it: it has no window that could lie elsewhere.
  if (!whole) return { steps: [...activeSteps(first), ...steps] };
  const [low, high] = [whole.center - whole.width / 2, whole.center + whole.width / 2];
  const at = (share: number) =>
    isInverted(first) ? high - share * (high - low) : low + share * (high - low);
  const [a, b] = [at(from), at(to)];
  const window = { center: (a + b) / 2, width: Math.max(1, Math.abs(b - a)) };
  return {
    steps: [{ kind: 'window', ...window, by: 'linear' }, ...(isInverted(first) ? turnedOver(steps) : steps)]
  };
}

/** Where a value lies in a look's window: 0 at what shows dark, 1 at what shows bright. */
function shareOf(look: Look): (value: number) => number {
  const { center, width } = windowOf(look)!;
  const [low, high] = [center - width / 2, center + width / 2];
  return (value) => (isInverted(look) ? (high - value) / (high - low) : (value - low) / (high - low));
}
