import fs from 'node:fs';
import { type IndexedFile, indexedFiles } from '../../core/dicom/fileSet';
import { NotReadable, readDicom } from '../../core/dicom/read';
import type { OpenedFile } from '../pictures/decode/opened';
import { mostStateBytes, toldIn } from '../pictures/readOnto';
import { Problem } from '../problem';
import { openOutsideFacts, openOutsidePaper } from '../work/processes';

/** What an incoming file turned out to be. */
export type Found =
  | { kind: 'picture'; opened: OpenedFile }
  | { kind: 'paper'; pages: number }
  | { kind: 'zip' }
  | { kind: 'video' }
  | { kind: 'index'; named: IndexedFile[] }
  /** A presentation state or a report: it goes onto the pictures it is about. */
  | { kind: 'told'; instanceUid: string; about: string[] };

const startBytes = 132;

/** What a file on the disk is, by how it begins; opened inside limits. */
export async function lookInto(file: string, name: string): Promise<Found> {
  const handle = await fs.promises.open(file, 'r');
  const start = Buffer.alloc(1024);
  const { bytesRead } = await handle.read(start, 0, start.length, 0).finally(() => handle.close());
  const begins = start.subarray(0, bytesRead);
  if (begins.length >= 4 && begins.readUInt32BE(0) === 0x504b0304) return { kind: 'zip' };
  if (begins.length >= 12 && begins.toString('latin1', 4, 8) === 'ftyp') return { kind: 'video' };
  if (begins.includes('%PDF-')) return { kind: 'paper', pages: (await openOutsidePaper(file)).pages };
  if (/(^|\/)DICOMDIR$/i.test(name) && bytesRead >= startBytes)
    return { kind: 'index', named: await indexOf(file) };
  return (await toldOf(file, begins)) ?? { kind: 'picture', opened: await openOutsideFacts(file) };
}

/** How the classes of states and reports begin: in the head of a file. */
const toldClasses = ['1.2.840.10008.5.1.4.1.1.11.', '1.2.840.10008.5.1.4.1.1.88.'];

async function toldOf(file: string, begins: Buffer): Promise<Found | null> {
  if (begins.toString('latin1', 128, 132) !== 'DICM' || !toldClasses.some((each) => begins.includes(each)))
    return null;
  const { size } = await fs.promises.stat(file);
  if (size > mostStateBytes) return null;
  try {
    const { instanceUid, about } = toldIn(await fs.promises.readFile(file), { width: 1, height: 1 });
    return instanceUid && about.length > 0 ? { kind: 'told', instanceUid, about } : null;
  } catch (error) {
    if (error instanceof Problem) return null;
    throw error;
  }
}

const mostIndexBytes = 64 * 1024 * 1024;

/** What a disc's index names; nothing where it can't be read, because all files are read anyway. */
async function indexOf(file: string): Promise<IndexedFile[]> {
  const { size } = await fs.promises.stat(file);
  if (size > mostIndexBytes) return [];
  try {
    return indexedFiles(readDicom(await fs.promises.readFile(file), () => new Uint8Array())).slice(0, 20_000);
  } catch (error) {
    if (error instanceof NotReadable) return [];
    throw error;
  }
}
