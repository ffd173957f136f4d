/**
 * What people make of a picture is a log of steps, each the new state of one layer (its look, its scale, one reading).
 * Taking back is a step of its own that names the step it undoes; bringing back undoes that one in turn. Nothing is
 * ever removed from the log. Steps of one act (a drag, a guide's points) are taken back together.
 */
export interface LayerStep {
  seq: number;
  act: string;
  /** Who made it. */
  by: string;
  kind: string;
  /** Of a kind that can be there several times. */
  item: string | null;
  version: number;
  /** The layer's state from here on; null when it is taken off. */
  body: unknown;
  /** Set on a step that undoes another; its own body does not count. */
  undoes: number | null;
}

/** The sequence numbers of steps that are undone. What was undone last counts: an undone undoing undoes nothing. */
function undoneOf(steps: readonly LayerStep[]): Set<number> {
  const undone = new Set<number>();
  for (let i = steps.length - 1; i >= 0; i--) {
    const { seq, undoes } = steps[i];
    if (undoes !== null && !undone.has(seq)) undone.add(undoes);
  }
  return undone;
}

/** The present state of every layer: its newest step that stands, whoever made it. Steps come in order of seq. */
export function standingLayers(steps: readonly LayerStep[]): LayerStep[] {
  const undone = undoneOf(steps);
  const layers = new Map<string, LayerStep>();
  for (const step of steps) {
    if (step.undoes !== null || undone.has(step.seq)) continue;
    const name = `${step.kind}:${step.item ?? ''}`;
    if (step.body === null) layers.delete(name);
    else layers.set(name, step);
  }
  return [...layers.values()];
}

/**
 * The steps that taking back would undo: those of the newest act of this person that still stand. Acts of others stay
 * as they are, also when they came later. Empty when there is nothing to take back.
 */
export function toTakeBack(steps: readonly LayerStep[], by: string): LayerStep[] {
  const undone = undoneOf(steps);
  const ofPerson = steps.filter((step) => step.by === by && step.undoes === null && !undone.has(step.seq));
  const act = ofPerson.at(-1)?.act;
  return ofPerson.filter((step) => step.act === act);
}

/**
 * The steps that bringing back would undo: those of the newest act of this person that took something back and still
 * stands. Empty once the person has made something new since.
 */
export function toBringBack(steps: readonly LayerStep[], by: string): LayerStep[] {
  const undone = undoneOf(steps);
  const ofPerson = steps.filter((step) => step.by === by);
  const made = new Map(ofPerson.map((step) => [step.seq, step]));
  const lastMade = ofPerson.findLast((step) => step.undoes === null)?.seq ?? 0;
  const taken = ofPerson.filter(
    (step) => step.undoes !== null && !undone.has(step.seq) && made.get(step.undoes)?.undoes === null
  );
  const act = taken.findLast((step) => step.seq > lastMade)?.act;
  return taken.filter((step) => step.act === act);
}
