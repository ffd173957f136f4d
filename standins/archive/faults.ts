/** What the archive can be told to do wrong. */
export const faultKinds = ['none', 'refuse', 'reject', 'stall', 'cut-before', 'cut-after', 'mixed'] as const;
export type FaultKind = (typeof faultKinds)[number];

export interface Faults {
  kind: FaultKind;
  /** How many requests to store it spoils; after them all is well again. */
  remaining: number;
}

/** The five ways, one after the other. */
const ways = ['cut-after', 'refuse', 'cut-before', 'reject', 'stall'] as const;
const everyThird = 3;
let asked = 0;

/**
 * The fault for this request, and one fewer to come.
 * refuse: 503. reject: 409 with a failure reason. stall: never answers. cut-before: hangs up before it stores.
 * cut-after: stores, then hangs up, so that the sender can't know. mixed: a third of the requests, by each way in turn.
 */
export function nextFault(faults: Faults): Exclude<FaultKind, 'mixed'> {
  if (faults.kind === 'none' || faults.remaining <= 0) return 'none';
  if (faults.kind === 'mixed') {
    asked += 1;
    if (asked % everyThird !== 0) return 'none';
    faults.remaining -= 1;
    return ways[(asked / everyThird - 1) % ways.length];
  }
  faults.remaining -= 1;
  return faults.kind;
}
