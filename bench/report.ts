/** One line of the bench: ours against something measured in the same run, because machines differ. */
export interface Row {
  name: string;
  oursMs: number;
  reference: string;
  referenceMs: number;
  /** What the ratio must stay under; Infinity where nothing is asked. */
  limit: number;
  note?: string;
}

export function median(values: number[]): number {
  if (values.length === 0) throw new Error('nothing was measured');
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted.length >> 1;
  return sorted.length % 2 === 1 ? sorted[middle] : (sorted[middle - 1] + sorted[middle]) / 2;
}

export function share(values: number[], part: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(part * sorted.length))];
}

const ms = (value: number) => `${value.toFixed(value < 10 ? 2 : 0)} ms`;

export function print(row: Row): void {
  const ratio = row.oursMs / row.referenceMs;
  const verdict = ratio <= row.limit ? 'reached' : 'NOT reached';
  const asked = Number.isFinite(row.limit) ? ` (at most ${row.limit.toFixed(2)}: ${verdict})` : '';
  console.log(
    [
      row.name,
      `  ours ${ms(row.oursMs)}, ${row.reference} ${ms(row.referenceMs)}, ratio ${ratio.toFixed(2)}${asked}`,
      ...(row.note ? [`  ${row.note}`] : [])
    ].join('\n')
  );
}

/** Runs something this often and gives the time of each run in milliseconds. */
export async function times(count: number, work: (i: number) => unknown): Promise<number[]> {
  const all = [];
  for (let i = 0; i < count; i++) {
    const start = performance.now();
    await work(i);
    all.push(performance.now() - start);
  }
  return all;
}
