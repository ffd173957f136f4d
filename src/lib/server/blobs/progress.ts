/** How far a growing file is, shared between threads: bytes written, whether it ended, and a count of changes. */
export const progressAt = { bytes: 0, ended: 1, changes: 2 } as const;

export const newProgress = (): Int32Array => new Int32Array(new SharedArrayBuffer(12));

/** Says that something has changed, after it was changed. */
export function tell(progress: Int32Array): void {
  Atomics.add(progress, progressAt.changes, 1);
  Atomics.notify(progress, progressAt.changes);
}

/** The count of changes is read first: what changes afterwards is never waited for in vain. */
export function lookAt(progress: Int32Array): { bytes: number; ended: boolean; state: number } {
  const state = Atomics.load(progress, progressAt.changes);
  return {
    state,
    ended: Atomics.load(progress, progressAt.ended) === 1,
    bytes: Atomics.load(progress, progressAt.bytes)
  };
}

/** Blocks the thread until something has changed since; false when nothing has for that long. */
export const nextChange = (progress: Int32Array, state: number, patienceMs: number): boolean =>
  Atomics.wait(progress, progressAt.changes, state, patienceMs) !== 'timed-out';
