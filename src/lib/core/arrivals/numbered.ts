/** Files of one folder whose names differ by one number alone, in the order of that number. */
export interface NumberedSeries<F> {
  /** The folder and what stands before the number. */
  name: string;
  files: F[];
  /** What is wrong with the numbering, in words: gaps, doubles. */
  remarks: string[];
}

/** Fewer are pictures of their own. */
const fewest = 4;
const mostNamed = 6;

interface Numbered<F> {
  file: F;
  number: number;
}

/**
 * Series among the files of folders: names that are alike but for one number, at least four of them. They lie in the
 * order of the number (2 before 10), whatever their order in the folder; where a name holds several numbers, the last
 * one that differs counts.
 * @param pathOf where a file lay, with "/" between folders
 */
export function numberedSeries<F>(files: readonly F[], pathOf: (file: F) => string): NumberedSeries<F>[] {
  const groups = new Map<string, Numbered<F>[]>();
  for (const file of files) {
    const path = pathOf(file);
    const slash = path.lastIndexOf('/');
    const name = path.slice(slash + 1);
    const match = /^(.*?)(\d{1,9})(\D*)$/.exec(name);
    if (!match) continue;
    const key = `${path.slice(0, slash + 1)}${match[1]}\u0000${match[3].toLowerCase()}`;
    groups.set(key, [...(groups.get(key) ?? []), { file, number: Number(match[2]) }]);
  }
  return [...groups].flatMap(([key, numbered]) => {
    if (numbered.length < fewest) return [];
    const inOrder = numbered.toSorted((a, b) => a.number - b.number);
    return [
      {
        name: nameOf(key.split('\u0000')[0]),
        files: inOrder.map(({ file }) => file),
        remarks: remarksOn(inOrder.map(({ number }) => number))
      }
    ];
  });
}

function nameOf(before: string): string {
  const parts = before.split('/').filter(Boolean);
  const stem = before.endsWith('/') ? '' : (parts.pop() ?? '').replace(/[\s_.-]+$/, '');
  return [parts.at(-1), stem].filter(Boolean).join(', ') || 'Numbered pictures';
}

function remarksOn(numbers: readonly number[]): string[] {
  const doubles = [...new Set(numbers.filter((number, i) => numbers[i - 1] === number))];
  const present = new Set(numbers);
  const missing: number[] = [];
  for (let n = numbers[0]; n < numbers[numbers.length - 1] && missing.length <= 10_000; n++)
    if (!present.has(n)) missing.push(n);
  // Counted by tens, or by time: then nothing is missing.
  const counted = missing.length < numbers.length;
  const list = (all: readonly number[]) =>
    `${all.slice(0, mostNamed).join(', ')}${all.length > mostNamed ? ` and ${all.length - mostNamed} more` : ''}`;
  return [
    ...(missing.length > 0 && counted
      ? [
          `${missing.length === 1 ? 'Number' : 'Numbers'} ${list(missing)} ${missing.length === 1 ? 'is' : 'are'} missing in the row.`
        ]
      : []),
    ...(doubles.length > 0
      ? [
          `${doubles.length === 1 ? 'Number' : 'Numbers'} ${list(doubles)} came more than once; each is a picture of the row.`
        ]
      : [])
  ];
}
