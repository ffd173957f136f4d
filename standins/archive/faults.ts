/** What the archive can be told to do wrong. */
export const faultKinds = ['none', 'refuse', 'reject', 'stall', 'cut-before', 'cut-after'] as const;
export type FaultKind = (typeof faultKinds)[number];

export interface Faults {
  kind: FaultKind;
  /** How many requests to store it spoils; after them all is well again. */
  remaining: number;
}

/**
 * The fault for this request, and one fewer to come.
 * refuse: 503. reject: 409 with a failure reason. stall: never answers. cut-before: hangs up before it stores.
 * cut-after: stores, then hangs up, so that the sender can't know.
 */
export function nextFault(faults: Faults): FaultKind {
  if (faults.kind === 'none' || faults.remaining <= 0) return 'none';
  faults.remaining -= 1;
  return faults.kind;
}
