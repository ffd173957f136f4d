/** How far some work is. It may be done before `done` has reached `of`. */
export interface Progress {
  done: number;
  of: number;
}

/** Long work in steps: whoever runs it may say how far it is, let others have a turn in between, or leave it. */
export type LongWork<T> = Generator<Progress, T, void>;

/** Runs all steps at once. @param told after each step; throw from it to stop */
export function finished<T>(steps: LongWork<T>, told?: (progress: Progress) => void): T {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    told?.(step.value);
  }
}

/** The work was stopped before it was done. */
export class Stopped extends Error {
  constructor() {
    super('Stopped before it was done.');
    this.name = 'Stopped';
  }
}

/** What runs steps one at a time needs from its surroundings. */
export interface Pace {
  /** Resolves once others have had their turn. */
  turn: () => Promise<void>;
  /** Whether the work is still wanted; asked after each turn. */
  wanted: () => boolean;
  told?: (progress: Progress) => void;
}

/**
 * Runs steps with a turn for others after each.
 * @throws Stopped when the work is no longer wanted
 */
export async function paced<T>(steps: LongWork<T>, { turn, wanted, told }: Pace): Promise<T> {
  for (;;) {
    const step = steps.next();
    if (step.done) return step.value;
    told?.(step.value);
    await turn();
    if (!wanted()) throw new Stopped();
  }
}
