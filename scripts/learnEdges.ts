import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { availableParallelism } from 'node:os';
import path from 'node:path';
import { fileURLToPath } from 'node:url';
import { format, resolveConfig } from 'prettier';
import { greysAcross } from '../src/lib/core/calibration/markers/edgeSigns';
import { edgeLessons } from './learning/edgeLessons';
import { learnedFrom } from './learning/networks';

/**
 * Learns how edges of balls and discs are read, and writes what the core reads by:
 *   npx tsx scripts/learnEdges.ts FOLDER [drawings of each kind, 26000]
 * Every drawing is made into three pictures; all of it takes about an hour on two cores. What was made stays in the
 * folder and is not made again.
 */
const kinds = ['ball', 'disc'] as const;
type Kind = (typeof kinds)[number];
const target = 'src/lib/core/calibration/markers/edgeReading.json';
/** Drawings of a kind begin at a seed of their own. */
const seeds = { ball: 1_000_000, disc: 2_000_000 };

const [what, ...rest] = process.argv.slice(2);
if (what === 'rows') writeRows(rest);
else if (what === 'teach') teach(rest);
else if (what) await learn(what, Number(rest[0] ?? 26_000));
else console.log('Say a folder for what is made on the way.');

async function learn(folder: string, drawings: number): Promise<void> {
  mkdirSync(folder, { recursive: true });
  const parts = availableParallelism();
  const each = Math.ceil(drawings / parts);
  const rowsOf = (kind: Kind, part: number) => path.join(folder, `${kind}-${part}.rows`);
  const partsOf = Array.from({ length: parts }, (_, part) => part);
  for (const kind of kinds)
    await Promise.all(
      partsOf.map((part) =>
        made(rowsOf(kind, part), 'rows', kind, String(seeds[kind] + part * each), String(each))
      )
    );
  const readings = kinds.map((kind) => path.join(folder, `${kind}.json`));
  await Promise.all(
    kinds.map((kind, i) => made(readings[i], 'teach', ...partsOf.map((part) => rowsOf(kind, part))))
  );
  const learned = Object.fromEntries(
    kinds.map((kind, i) => [kind, JSON.parse(readFileSync(readings[i], 'utf8')) as unknown])
  );
  writeFileSync(
    target,
    await format(JSON.stringify(learned), { ...(await resolveConfig(target)), parser: 'json' })
  );
}

/** A file that another process makes, whole or not at all. */
async function made(file: string, task: string, ...words: string[]): Promise<void> {
  if (existsSync(file)) return;
  const child = spawn(
    process.execPath,
    ['--import', 'tsx', fileURLToPath(import.meta.url), task, `${file}.part`, ...words],
    { stdio: 'inherit' }
  );
  const [code] = (await once(child, 'exit')) as [number];
  if (code !== 0) throw new Error(`${file} could not be made.`);
  renameSync(`${file}.part`, file);
}

/** Rows of one length, which stands before them. */
function writeRows([file, kind, from, count]: string[]): void {
  const rows: Float32Array[] = [];
  for (let i = 0; i < Number(count); i++) rows.push(...edgeLessons(kind as Kind, Number(from) + i));
  const values = new Float32Array(1 + rows.length * rows[0].length);
  values[0] = rows[0].length;
  rows.forEach((row, i) => values.set(row, 1 + i * row.length));
  writeFileSync(file, values);
}

function rowsIn(file: string): Float32Array[] {
  const bytes = readFileSync(file);
  const values = new Float32Array(Uint8Array.from(bytes).buffer);
  const length = values[0];
  return Array.from({ length: (values.length - 1) / length }, (_, i) =>
    values.subarray(1 + i * length, 1 + (i + 1) * length)
  );
}

function teach([file, ...files]: string[]): void {
  const rows = files.flatMap(rowsIn);
  console.log(`${file}: ${rows.length} edges`);
  writeFileSync(
    file,
    JSON.stringify(learnedFrom(rows, greysAcross, (line) => console.log(`${file}: ${line}`)))
  );
}
