import fs from 'node:fs';
import path from 'node:path';
import { setTimeout } from 'node:timers/promises';
import { z } from 'zod';
import { isToRead } from '../../core/arrivals/packageFiles';
import { naturally } from '../../core/text';
import { once } from '../acts/once';
import { type Tx, inClinic } from '../database/connection';
import { log } from '../log';
import { type Caller, demand } from '../people/caller';
import { bytesOfFile } from '../pictures/receiving';
import { Problem } from '../problem';
import { finishIntake } from './intakeEnd';
import { breakOff, intakeHead, noteLine, openIntake, senderOfCaller } from './intakes';
import { surveyFolder } from './survey';
import { takeIn } from './takeIn';

export const folderWish = z.strictObject({ folder: z.string().min(1).max(1000) });

const mostFiles = 50_000;
/** So many at once: while some are opened, others are written through to the disk and kept. */
const atOnce = 8;

/** So often it is asked whether no more shall come. */
const askEveryMs = 250;
/** So long the beginnings of its files are looked at before they are read; what takes longer goes on beside it. */
const surveyedFirstMs = 3_000;

/** Folders on the server's machine that the administrator lets it read. */
export const readFolders = async (tx: Tx): Promise<string[]> =>
  (await tx.one<{ read_folders: string[] }>(
    'select read_folders from clinic where clinic_id = $1',
    tx.clinicId
  ))!.read_folders;

/** A folder and those right in it, as they can be chosen. */
export async function foldersToRead(caller: Caller): Promise<string[]> {
  await demand(caller, 'bring in files', 'folders');
  const allowed = await inClinic(caller.clinicId, readFolders);
  const all = await Promise.all(
    allowed.map(async (folder) => {
      const inside = await fs.promises.readdir(folder, { withFileTypes: true }).catch(() => []);
      return [
        folder,
        ...inside.filter((each) => each.isDirectory()).map(({ name }) => path.join(folder, name))
      ];
    })
  );
  return all.flat();
}

/** Begins to read a folder on the server's machine; what comes of it is seen in the intake. */
export async function beginReading(
  caller: Caller,
  key: string,
  { folder }: z.infer<typeof folderWish>
): Promise<{ intakeId: string }> {
  await demand(caller, 'bring in files', 'a folder');
  const allowed = await inClinic(caller.clinicId, readFolders);
  const real = await realFolder(folder, allowed);
  let fresh = false;
  const answer = await inClinic(caller.clinicId, (tx) =>
    once(tx, caller.userId, key, async () => {
      fresh = true;
      const wish = { source: 'disc' as const, name: path.basename(real), said: null, forUser: caller.userId };
      return { intakeId: await openIntake(tx, { by: caller }, wish) };
    })
  );
  if (fresh)
    void readThrough(caller, answer.intakeId, real).catch(async (error: unknown) => {
      log.error({ error, intakeId: answer.intakeId }, 'a folder was not read to its end');
      // While the records are away this can't be told; it is found and ended when they are back.
      await inClinic(caller.clinicId, (tx) => breakOff(tx, answer.intakeId)).catch(() => {});
    });
  return answer;
}

/** The folder as the disk has it, if it lies in one that may be read: links that lead elsewhere do not count. */
async function realFolder(folder: string, allowed: readonly string[]): Promise<string> {
  const real = await fs.promises.realpath(folder).catch(() => null);
  const may = await Promise.all(allowed.map((each) => fs.promises.realpath(each).catch(() => each)));
  if (real && may.some((each) => real === each || real.startsWith(`${each}${path.sep}`))) return real;
  throw new Problem(
    'folder-not-allowed',
    real ? 'The server may not read this folder.' : 'There is no such folder on the server.',
    'Pick one from the list, or ask an administrator to allow it under Settings.',
    403
  );
}

async function readThrough(caller: Caller, intakeId: string, folder: string): Promise<void> {
  const from = senderOfCaller(caller, 'disc');
  const { files: found, unreadable } = await filesIn(folder);
  const isRead = isToRead(found.map((file) => nameIn(folder, file)));
  const files = found.filter((file) => isRead(nameIn(folder, file)));
  const refuse = (name: string) =>
    inClinic(caller.clinicId, (tx) =>
      noteLine(tx, intakeId, {
        name,
        outcome: 'refused',
        code: 'unreadable',
        words: 'The disc can’t be read at this place. Clean it and read it again, or ask for a new one.'
      })
    );
  const surveying = surveyFolder(caller.clinicId, intakeId, files);
  for (const at of unreadable) await refuse(nameIn(folder, at));
  await inClinic(caller.clinicId, (tx) =>
    tx.sql('update intake set said = $2 where intake_id = $1', intakeId, files.length)
  );
  await Promise.race([surveying, setTimeout(surveyedFirstMs, undefined, { ref: false })]);
  let cancelled = false;
  let askedAt = 0;
  let next = 0;
  const one = async (): Promise<void> => {
    while (next < files.length && !cancelled) {
      const file = files[next++];
      if (performance.now() - askedAt > askEveryMs) {
        askedAt = performance.now();
        const head = await inClinic(caller.clinicId, (tx) => intakeHead(tx, intakeId));
        cancelled ||= head.cancelled;
        if (cancelled) return;
      }
      const name = nameIn(folder, file);
      try {
        await takeIn(from, intakeId, { path: name, body: bytesOfFile(file) });
      } catch (error) {
        if (!isReadingError(error)) throw error;
        await refuse(name);
      }
    }
  };
  await Promise.all([...Array.from({ length: atOnce }, one), surveying]);
  await finishIntake(from, intakeId, cancelled);
}

const nameIn = (folder: string, file: string): string =>
  path.relative(folder, file).split(path.sep).join('/');

const isReadingError = (error: unknown): boolean =>
  ['EIO', 'EACCES', 'ENOENT', 'EISDIR', 'EPERM', 'ENXIO'].includes(
    (error as NodeJS.ErrnoException).code ?? ''
  );

/** Every file in a folder and those in it, in the order of their names, and the folders that can't be read. */
async function filesIn(folder: string): Promise<{ files: string[]; unreadable: string[] }> {
  const [files, unreadable]: [string[], string[]] = [[], []];
  const walk = async (at: string): Promise<void> => {
    const inside = await fs.promises.readdir(at, { withFileTypes: true }).catch(() => null);
    if (!inside) unreadable.push(at);
    for (const each of (inside ?? []).toSorted((a, b) => naturally(a.name, b.name))) {
      if (files.length >= mostFiles) return;
      const whole = path.join(at, each.name);
      // Links are not followed.
      if (each.isDirectory()) await walk(whole);
      else if (each.isFile()) files.push(whole);
    }
  };
  await walk(folder);
  return { files, unreadable };
}
