import fs from 'node:fs';
import { Tinypool } from 'tinypool';
import { cleanTexts } from '../../core/text';
import type { ComposeWish } from '../arrivals/composing';
import { Problem } from '../problem';
import type { OpenedPaper } from '../papers/openPaper';
import type { LookingWish } from '../advice/lookingWish';
import type { FoundWriting } from '../deidentify/readWriting';
import type { VeiledWish } from '../deidentify/veiledWish';
import type { WritingWish } from '../deidentify/writingWish';
import type { ItemPacked, ItemWish } from '../dispatch/packedItem';
import type { LevelBytes } from '../pictures/levelBytes';
import type { PreviewWish } from '../pictures/previewWish';
import type { PagesPdfWish } from '../report/pagesPdf';
import type { ResultsPdfWish } from '../report/resultsPdf';
import type { LetterPdfWish } from '../letters/letterPdf';
import type { FilmBoxMade, FilmBoxWish } from '../report/filmBox';
import type { PrintPdfWish } from '../report/printPdf';
import type { PdfMade } from '../report/made';
import type { VisitReportWish } from '../report/visitReportPdf';
import type { SamplesOutside, ShownOutside } from '../takenOut/outside';
import type { OpenedFile } from '../pictures/decode/opened';
import type { FileAnswer, ProcessNews } from './fileAnswer';
import { processorMsAllowed } from './limits';
import { poolFile } from './poolFile';

/** Limits for one file from outside. A process that oversteps one is ended and the file refused in words. */
const mostResidentBytes = 1_000_000_000;
/** What a sound picture takes beside its samples: the file, the frame, its sizes, and a copy of each on the way. */
const residentPerSampleByte = 5;
const watchEveryMs = 50;
/** By the clock on the wall a file may take so much longer: others go first, and the machine may be busy. */
const stuckFactor = 30;

/** Several of each, so that nobody waits behind one file that takes long. */
const processes = 2;
/** So many pictures are packed at one moment, by whoever packs one after the other. */
export const packedAtOnce = processes;

/**
 * The pool gives its processes nothing but what it is told to. What reads pictures takes and gives back large pieces in
 * several threads; pieces that each thread keeps for itself would pile up.
 */
const inherited = () => ({
  ...Object.fromEntries(
    Object.entries(process.env).filter((each): each is [string, string] => each[1] !== undefined)
  ),
  MALLOC_ARENA_MAX: '2'
});

/**
 * Pictures lie outside the heap, and V8 clears all of a small heap whenever as much again lies there: after every picture,
 * for longer than packing it takes. So it begins as if its heap were this large.
 */
const roomForPictures = '--initial-old-space-size=128';

function newPool(...more: string[]): Tinypool {
  const pool = new Tinypool({
    filename: poolFile('process'),
    runtime: 'child_process',
    serialization: 'advanced',
    env: inherited(),
    execArgv: ['--max-old-space-size=700', ...more],
    minThreads: 1,
    maxThreads: processes,
    idleTimeout: 60_000
  });
  // A process that dies while nobody waits for it, or one that is spoken to after it died, is replaced and no news. A
  // pool whose processes died before they were ready starts none for what is in line: another takes its place.
  pool.on('error', () => setTimeout(() => replaceStuck(pool), 500).unref());
  return pool;
}

const newLeavings = () => newPool(roomForPictures);

function replaceStuck(pool: Tinypool): void {
  if (pool.threads.length > 0 || pool.queueSize === 0) return;
  if (files === pool) files = newPool();
  else if (pictures === pool) pictures = newPool();
  else if (leavings === pool) leavings = newLeavings();
  void pool.destroy().catch(() => {});
}

let files: Tinypool | null = null;
let pictures: Tinypool | null = null;
/** For what leaves: it takes long, and nobody at a chair waits behind it. */
let leavings: Tinypool | null = null;

/** Starts the processes ahead of time, so that the first file does not wait for one. */
export function startProcesses(): void {
  files ??= newPool();
  startPictureProcesses();
}

/** Those alone that make small pictures and look at takes. */
export function startPictureProcesses(): void {
  pictures ??= newPool();
}

/** The same, warm: somebody at the chair waits for what the first one sees. */
export function warmPictureProcesses(): void {
  startPictureProcesses();
  pictures?.run({}, { name: 'warm' }).catch(() => {});
}

export async function stopProcesses(): Promise<void> {
  const stopping = [files, pictures, leavings];
  files = pictures = leavings = null;
  await Promise.all(stopping.map((pool) => pool?.destroy().catch(() => {})));
}

function residentBytes(pid: number): number {
  try {
    return Number(fs.readFileSync(`/proc/${pid}/statm`, 'utf8').split(' ')[1]) * 4096;
  } catch {
    return 0;
  }
}

/** Processor time that a process has taken so far, in ms, by the kernel's hundredths of a second; 0 for one that is gone. */
function processorMs(pid: number): number {
  try {
    const stat = fs.readFileSync(`/proc/${pid}/stat`, 'utf8');
    const [user, system] = stat
      .slice(stat.lastIndexOf(')') + 2)
      .split(' ')
      .slice(11, 13);
    return (Number(user) + Number(system)) * 10;
  } catch {
    return 0;
  }
}

const tooLong = () =>
  new Problem(
    'too-hard',
    'This file took longer to open than any sound one does, so it was put aside.',
    'Export it again from where it came.',
    422
  );
const tooBig = () =>
  new Problem(
    'too-large',
    'This file needs more memory to open than any sound one does, so it was put aside.',
    'Export it again, smaller.',
    422
  );
const broke = () =>
  new Problem(
    'not-opened',
    'This file could not be opened: what opens files broke off over it.',
    'Try it once more. If it stays so, ask the sender for it again.',
    422
  );

/** A process broke off over a task, or never came to it. */
class BrokeOff extends Error {
  constructor(readonly begun: boolean) {
    super('a process broke off');
  }
}
const mostBegun = 2;
const mostTries = 5;

/** Runs one task on a file from outside, inside the limits; once more where a process died that may have been killed. */
async function guarded<T>(name: string, wish: { file: string }): Promise<T> {
  let begun = 0;
  for (let tries = 1; ; tries++) {
    try {
      return await guardedOnce<T>(name, wish);
    } catch (error) {
      if (!(error instanceof BrokeOff)) throw error;
      if (error.begun) begun += 1;
      if (begun >= mostBegun || tries >= mostTries) throw broke();
    }
  }
}

async function guardedOnce<T>(name: string, wish: { file: string }): Promise<T> {
  files ??= newPool();
  const limit = new AbortController();
  let over: Problem | null = null;
  const end = (problem: Problem) => {
    over ??= problem;
    limit.abort();
  };
  const { size } = await fs.promises.stat(wish.file);
  let under: { pid: number; processorMs: number; since: number; sampleBytes: number } | null = null;
  const heard = (message: unknown) => {
    const { pid, sampleBytes = 0 } = message as ProcessNews;
    if (pid !== undefined) under = { pid, processorMs: processorMs(pid), since: Date.now(), sampleBytes };
    else if (under) under.sampleBytes = sampleBytes;
  };
  const watch = setInterval(() => {
    if (!under) return;
    const allowedMs = processorMsAllowed(size, under.sampleBytes);
    const resident = Math.max(mostResidentBytes, size + residentPerSampleByte * under.sampleBytes);
    if (residentBytes(under.pid) > resident) end(tooBig());
    else if (processorMs(under.pid) - under.processorMs > allowedMs) end(tooLong());
    else if (Date.now() - under.since > stuckFactor * allowedMs) end(tooLong());
  }, watchEveryMs);
  try {
    const answer = (await files.run(wish, {
      name,
      signal: limit.signal,
      channel: { onMessage: () => {}, postMessage: heard, onClose: () => {} }
    })) as FileAnswer<T>;
    if ('done' in answer) return answer.done;
    const { code, sentence, next } = answer.refused;
    throw new Problem(code, sentence, next, 422);
  } catch (error) {
    if (error instanceof Problem) throw error;
    if (over !== null) throw over as Problem;
    throw new BrokeOff(under !== null);
  } finally {
    clearInterval(watch);
  }
}

/** A file from outside: what it is, its first frame at every size, and a small picture. */
export async function openOutsideFile(file: string): Promise<OpenedOutside> {
  const found = await guarded<OpenedOutside>('openFile', { file });
  // Whatever opened it, no text of a file goes further than this as it came.
  return { ...found, opened: cleanTexts(found.opened) };
}

/** What a file from outside is, without its sizes: for what nobody looks at as yet. */
export const openOutsideFacts = async (file: string): Promise<OpenedFile> =>
  cleanTexts(await guarded<OpenedFile>('openFacts', { file }));

/** Numbered pictures made one of many frames; each was opened inside limits before. */
export function composeOutside(wish: ComposeWish): Promise<void> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'compose' });
}

interface OpenedOutside {
  opened: OpenedFile;
  levels: LevelBytes[];
  small: Uint8Array;
}

export const openOutsideFrame = (file: string, frame: number): Promise<LevelBytes[]> =>
  guarded<LevelBytes[]>('openFrame', { file, frame } as { file: string });

export const openOutsidePaper = (file: string): Promise<OpenedPaper> =>
  guarded<OpenedPaper>('openPaper', { file });

/** A logo from outside as a PNG. */
export const openOutsideLogo = (file: string): Promise<Uint8Array> => guarded<Uint8Array>('logo', { file });

/** Looks at a take for what is wrong with it, and keeps what it saw. */
export function adviseOutside(wish: LookingWish): Promise<void> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'advise' });
}

/** What came in and belongs to nobody yet, made and kept as a picture to look at. */
export function arrivalOutside(wish: {
  clinicId: string;
  arrivalId: string;
  frame: number;
}): Promise<Uint8Array> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'arrival' });
}

/** A small picture, made and kept where nobody at a chair has to wait for it. */
export function previewOutside(wish: PreviewWish): Promise<Uint8Array> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'preview' });
}

/** A picture as it is seen, as a file. */
export function shownOutside(wish: ShownOutside): Promise<Uint8Array> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'shown' });
}
/** A picture and the words under it as a film printer is given them. */
export function filmOutside(wish: FilmBoxWish): Promise<FilmBoxMade> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'film' });
}
/** The same as a JPEG, to be looked at before. */
export function filmShownOutside(wish: FilmBoxWish): Promise<Uint8Array> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'filmShown' });
}
/** A picture's samples as they are stored, as a file. */
export function samplesOutside(wish: SamplesOutside): Promise<Uint8Array> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'samples' });
}
/** Results of a visit as a PDF. */
export function pdfOutside(wish: ResultsPdfWish): Promise<Uint8Array> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'pdf' });
}
/** The report of a visit as a PDF. */
export function reportOutside(wish: VisitReportWish): Promise<PdfMade> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'report' });
}
/** A letter as a PDF. */
export function letterOutside(wish: LetterPdfWish): Promise<PdfMade> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'letter' });
}
/** Pictures on sheets as a PDF. */
export function printOutside(wish: PrintPdfWish): Promise<PdfMade> {
  pictures ??= newPool();
  return pictures.run(wish, { name: 'print' });
}
/** One picture of a parcel as the files that leave, looked through. */
export async function packedOutside(wish: ItemWish): Promise<ItemPacked> {
  leavings ??= newLeavings();
  const answer = (await leavings.run(wish, { name: 'packed' })) as FileAnswer<ItemPacked>;
  if ('done' in answer) return answer.done;
  const { code, sentence, next } = answer.refused;
  throw new Problem(code, sentence, next, 409);
}

/** A picture with what is veiled masked, as a DICOM file. */
export function veiledOutside(wish: VeiledWish): Promise<Uint8Array> {
  leavings ??= newLeavings();
  return leavings.run(wish, { name: 'veiled' });
}

/** Writing that seems to stand in a picture, and what it says; ended when nobody waits for it any more. */
export function writingOutside(wish: WritingWish, signal?: AbortSignal): Promise<FoundWriting[]> {
  leavings ??= newLeavings();
  return leavings.run(wish, { name: 'writing', signal });
}

/** Pictures or words as the pages of a PDF. */
export function pagesOutside(wish: PagesPdfWish): Promise<Uint8Array> {
  leavings ??= newLeavings();
  return leavings.run(wish, { name: 'pages' });
}
