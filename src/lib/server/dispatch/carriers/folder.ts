import fs from 'node:fs';
import path from 'node:path';
import { NotDelivered, type Wire } from './carrier';

/** Folders that parcels may be written into lie in one of these: whoever runs the server says which. */
export const sharedRoots = (): string[] =>
  (process.env.YONDER_SHARED_FOLDERS ?? '').split(path.delimiter).filter(Boolean);

/** Whether a folder lies in one that others share; links are followed first. */
export function inSharedRoots(folder: string): boolean {
  const at = realPath(path.resolve(folder));
  return sharedRoots().some((root) => {
    const inside = path.relative(realPath(path.resolve(root)), at);
    return inside === '' || (!inside.startsWith('..') && !path.isAbsolute(inside));
  });
}

function realPath(at: string): string {
  try {
    return fs.realpathSync(at);
  } catch {
    return at;
  }
}

const problems: Readonly<Record<string, [reason: string, next: string]>> = {
  ENOSPC: ['The folder is full.', 'Make room there; it is tried again by itself.'],
  EDQUOT: ['The folder is full.', 'Make room there; it is tried again by itself.'],
  ENOENT: [
    'The folder is not there.',
    'See whether it was moved or is not mounted; it is tried again by itself.'
  ],
  EACCES: ['The folder can’t be written into.', 'Ask whoever keeps it to let this clinic’s server in.'],
  EPERM: ['The folder can’t be written into.', 'Ask whoever keeps it to let this clinic’s server in.'],
  EROFS: ['The folder can’t be written into.', 'Ask whoever keeps it to let this clinic’s server in.']
};

export function folderProblem(error: unknown): NotDelivered {
  const [reason, next] = problems[(error as { code?: string }).code ?? ''] ?? [
    'Writing into the folder did not work.',
    'See whether it can be reached; it is tried again by itself.'
  ];
  return new NotDelivered(reason, false, next);
}

export interface FolderFile {
  path: string;
  bytes: Uint8Array;
}

/**
 * Writes a parcel into a folder of its own: under another name until all of it is there, so that nobody takes up half of
 * one, and each file read back. What a try before has written is kept. Once it has its name it is there, however often
 * it is asked for.
 */
export async function writeParcel(
  folder: string,
  name: string,
  files: AsyncIterable<FolderFile>,
  wire: Wire
): Promise<void> {
  const target = path.join(folder, name);
  const coming = path.join(folder, `.${name}.coming`);
  let written = 0;
  let bytes = 0;
  const said = (answer: string) =>
    wire({
      request: `writing into ${target}`,
      headers: {},
      parts: [{ type: `${written} files`, bytes }],
      answer,
      answerHeaders: {},
      body: ''
    });
  try {
    if (!fs.existsSync(folder)) throw Object.assign(new Error('gone'), { code: 'ENOENT' });
    if (fs.existsSync(target)) {
      said('there already');
      return;
    }
    for await (const file of files) {
      const at = path.join(coming, ...file.path.split('/'));
      await fs.promises.mkdir(path.dirname(at), { recursive: true });
      if (!(await holds(at, file.bytes))) {
        await writeWhole(at, file.bytes);
        if (!(await holds(at, file.bytes)))
          throw new NotDelivered(
            'What was read back is not what was written.',
            false,
            'It is tried again by itself.'
          );
      }
      written += 1;
      bytes += file.bytes.length;
    }
    await fs.promises.rename(coming, target);
    said('written and read back');
  } catch (error) {
    const problem =
      error instanceof NotDelivered ? error : (error as { code?: string }).code ? folderProblem(error) : null;
    if (!problem) throw error;
    said(problem.reason);
    throw problem;
  }
}

async function writeWhole(at: string, bytes: Uint8Array): Promise<void> {
  const handle = await fs.promises.open(at, 'w', 0o640);
  try {
    await handle.writeFile(bytes);
    await handle.sync();
  } finally {
    await handle.close();
  }
}

async function holds(at: string, bytes: Uint8Array): Promise<boolean> {
  try {
    const { size } = await fs.promises.stat(at);
    return size === bytes.length && Buffer.from(bytes).equals(await fs.promises.readFile(at));
  } catch {
    return false;
  }
}
