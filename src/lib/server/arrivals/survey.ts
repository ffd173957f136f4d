import { type Surveyed, addedTo } from '../../core/arrivals/survey';
import { inClinic } from '../database/connection';
import { log } from '../log';
import { type Caller, demand } from '../people/caller';
import { Problem } from '../problem';
import { surveyInThread } from '../work/threads';
import { intakeHead } from './intakes';
import { noteSurvey } from './surveyed';

/** So many files' beginnings are looked at in one piece. */
const filesInPiece = 64;
export const mostHeadBytes = 4 * 1024 * 1024;
const mostHeads = 512;
/** So many pieces at once. */
const atOnce = 2;
const tellEveryMs = 500;

/**
 * Looks at the beginnings of all files of a folder, so that a person sees whose they are before they are read. It tells
 * ahead and decides nothing: where it can't, what is read tells it.
 */
export async function surveyFolder(
  clinicId: string,
  intakeId: string,
  files: readonly string[]
): Promise<void> {
  let next = 0;
  let untold: Surveyed[] = [];
  let toldAt = performance.now();
  let goesOn = true;
  const tell = async (): Promise<void> => {
    const some = untold;
    untold = [];
    toldAt = performance.now();
    if (!(await inClinic(clinicId, (tx) => noteSurvey(tx, intakeId, some)))) goesOn = false;
  };
  const one = async (): Promise<void> => {
    while (next < files.length && goesOn) {
      const some = files.slice(next, (next += filesInPiece));
      const found = await surveyInThread({ files: some, heads: [] });
      untold = addedTo(untold, found);
      if (performance.now() - toldAt > tellEveryMs) await tell();
    }
  };
  try {
    await Promise.all(Array.from({ length: atOnce }, one));
    await tell();
  } catch (error) {
    log.warn({ error, intakeId }, 'a folder could not be surveyed to its end');
  }
}

/**
 * Beginnings of files that a page is about to bring in, each after its length in four bytes, little end first; null where
 * there are too many bytes of them.
 */
export async function surveyHeads(caller: Caller, intakeId: string, bytes: Buffer | null): Promise<object> {
  await demand(caller, 'bring in files', intakeId);
  await inClinic(caller.clinicId, (tx) => intakeHead(tx, intakeId));
  if (!bytes) throw notHeads();
  const found = await surveyInThread({ files: [], heads: headsIn(bytes) });
  await inClinic(caller.clinicId, (tx) => noteSurvey(tx, intakeId, found));
  return {};
}

function headsIn(bytes: Buffer): Uint8Array[] {
  const heads: Uint8Array[] = [];
  for (let at = 0; at < bytes.length;) {
    const from = at + 4;
    const end = from <= bytes.length ? from + bytes.readUInt32LE(at) : Infinity;
    if (end > bytes.length || heads.length >= mostHeads) throw notHeads();
    heads.push(bytes.subarray(from, end));
    at = end;
  }
  return heads;
}

const notHeads = () =>
  new Problem(
    'not-heads',
    'These are no beginnings of files, or too many at once.',
    'Bring the files in; what they are is told as they are read.',
    422
  );
