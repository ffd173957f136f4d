import fs from 'node:fs';

/** Proportional memory of processes and of all that they started, in bytes. */
export function memoryOf(roots: readonly number[]): number {
  const children = new Map<number, number[]>();
  for (const name of fs.readdirSync('/proc').filter((each) => /^\d+$/.test(each))) {
    const parent = Number(/^PPid:\s+(\d+)/m.exec(read(`/proc/${name}/status`))?.[1] ?? 0);
    children.set(parent, [...(children.get(parent) ?? []), Number(name)]);
  }
  const memory = (pid: number) =>
    Number(/^Pss:\s+(\d+) kB/m.exec(read(`/proc/${pid}/smaps_rollup`))?.[1] ?? 0) * 1024;
  const all = (pid: number): number =>
    memory(pid) + (children.get(pid) ?? []).reduce((sum, child) => sum + all(child), 0);
  return roots.reduce((sum, pid) => sum + all(pid), 0);
}

function read(file: string): string {
  try {
    return fs.readFileSync(file, 'utf8');
  } catch {
    return '';
  }
}
