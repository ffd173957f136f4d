/**
 * What people do to a picture is a log of steps, each the new state of one layer (its look, its scale, one reading).
 * Taking back is a step of its own that names the step it undoes: nothing is ever removed from the log.
 */
export interface Step {
  seq: number;
  /** 'look', 'orientation', 'scale' or 'reading:<id>'. */
  layer: string;
  /** The layer's state from here on; null when it is taken off. */
  body: unknown;
  /** Set on a step that takes another back; its layer and body do not count. */
  undoes: number | null;
}

export type Layers = Record<string, unknown>;

function standing(steps: readonly Step[]): Step[] {
  const undone = new Set<number>();
  for (const step of steps) if (step.undoes !== null) undone.add(step.undoes);
  return steps.filter((step) => step.undoes === null && !undone.has(step.seq));
}

/** The present state of every layer: its newest step that was not taken back. Steps come in order of seq. */
export function layersOf(steps: readonly Step[]): Layers {
  const layers: Layers = {};
  for (const step of standing(steps)) {
    if (step.body === null) delete layers[step.layer];
    else layers[step.layer] = step.body;
  }
  return layers;
}

/** The step that "take back" takes back next, of the layers asked for; null when there is none. */
export function lastStanding(
  steps: readonly Step[],
  concerns: (layer: string) => boolean = () => true
): Step | null {
  return (
    standing(steps)
      .filter((step) => concerns(step.layer))
      .at(-1) ?? null
  );
}
