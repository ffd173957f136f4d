/** Gathers what comes in one go, and sends it together: the parts of one act are heard in the same moment. */
export function gathered<T>(send: (all: T[]) => void): (one: T) => void {
  let due: T[] = [];
  return (one) => {
    if (due.push(one) > 1) return;
    setImmediate(() => {
      const all = due;
      due = [];
      send(all);
    });
  };
}
