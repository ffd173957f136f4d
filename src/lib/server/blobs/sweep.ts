import fs from 'node:fs';
import path from 'node:path';
import { inClinic } from '../database/connection';
import { clinicFolder, comingFolder } from './landing';
import { blobRow } from './queries';

/** A file that somebody may still be about to commit is left alone for this long. */
const graceMs = 15 * 60_000;

/**
 * Removes files of a clinic's landing that nothing refers to: those whose act was never committed, and those whose
 * original is kept already. Whoever sent them was not told that they are stored.
 * @returns how many were removed
 */
export const sweepLanding = (clinicId: string, now = Date.now(), grace = graceMs): Promise<number> =>
  sweep(clinicFolder(clinicId), now - grace, (name) => isNeeded(clinicId, name));

/** Removes files that were coming when their sender broke off, or the server did. */
export const sweepComing = (now = Date.now(), grace = graceMs): Promise<number> =>
  sweep(comingFolder(), now - grace, async () => false);

async function sweep(
  folder: string | null,
  before: number,
  needed: (name: string) => Promise<boolean>
): Promise<number> {
  if (!folder) return 0;
  const names = await fs.promises.readdir(folder).catch(() => [] as string[]);
  let removed = 0;
  for (const name of names) {
    const file = path.join(folder, name);
    const state = await fs.promises.stat(file).catch(() => null);
    if (!state || state.mtimeMs > before || (await needed(name))) continue;
    await fs.promises.rm(file, { force: true });
    removed += 1;
  }
  return removed;
}

async function isNeeded(clinicId: string, name: string): Promise<boolean> {
  if (!/^[0-9a-f]{64}$/.test(name)) return true;
  const row = await inClinic(clinicId, (tx) => blobRow(tx, Buffer.from(name, 'hex')));
  return row?.place === 'landed';
}
