import { PassThrough } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { cleanText } from '../../core/text';
import { Problem } from '../problem';

const mostEntries = 20_000;
const mostBytes = 16 * 1024 ** 3;
/** What packs more tightly than this was made to burst. Empty pictures pack well, so small ones are let through. */
const mostTightly = 300;
const smallBytes = 64 * 1024 ** 2;
const mostEntryBytes = 256 * 1024 ** 2;

export interface Unpacking {
  /** What it holds, before anything of it is read. */
  listed?(names: readonly string[]): void;
  counted(files: number): Promise<void>;
  /** Asked before each file; what is cancelled stops there. */
  goesOn(): Promise<boolean>;
  entry(name: string, body: AsyncIterable<Uint8Array>): Promise<void>;
  refused(name: string, words: string): Promise<void>;
}

// Names are checked by us: one that points outside is a name like any other, because nothing is written by it.
const options = {
  lazyEntries: true,
  autoClose: false,
  strictFileNames: false,
  validateEntrySizes: true,
  decodeStrings: false
} as const;

const damaged = () =>
  new Problem(
    'zip-damaged',
    'This ZIP package is cut off or damaged.',
    'Copy it again from where it came, or ask the sender for it once more.',
    422
  );

/** Goes through a ZIP package file by file; no name in it is ever used as a place on this machine. */
export async function unpacked(file: string, work: Unpacking): Promise<void> {
  let zip: ZipFile;
  try {
    zip = await yauzl.openPromise(file, options);
  } catch {
    throw damaged();
  }
  try {
    if (zip.entryCount > mostEntries)
      throw new Problem(
        'zip-too-many',
        `This ZIP package holds ${zip.entryCount.toLocaleString('en')} files, more than are unpacked at once.`,
        'Unpack it and bring in its folders one by one.',
        422
      );
    if (work.listed) work.listed(await namesIn(file));
    await work.counted(zip.entryCount);
    let total = 0;
    for await (const entry of entriesOf(zip)) {
      const name = nameOf(entry);
      if (name.endsWith('/')) continue;
      if (!(await work.goesOn())) return;
      const wrong = wrongWith(entry, name, total);
      if (wrong) {
        await work.refused(name.replace(/^(\.\.\/)+/, ''), wrong);
        continue;
      }
      total += entry.uncompressedSize;
      await oneEntry(zip, entry, name, work);
    }
  } finally {
    zip.close();
  }
}

/** Names of all files in a package, without reading any. */
async function namesIn(file: string): Promise<string[]> {
  const zip = await yauzl.openPromise(file, options);
  const names: string[] = [];
  try {
    for await (const entry of entriesOf(zip)) names.push(nameOf(entry));
  } finally {
    zip.close();
  }
  return names;
}

/** The files that a package lists; a list that breaks off is damaged. */
async function* entriesOf(zip: ZipFile): AsyncGenerator<Entry> {
  const entries = zip.eachEntry();
  for (;;) {
    const next = await entries.next().catch(() => {
      throw damaged();
    });
    if (next.done) return;
    yield next.value;
  }
}

/** One file of a package. What breaks off in the package is refused; what goes wrong over it here is no fault of the file. */
async function oneEntry(zip: ZipFile, entry: Entry, name: string, work: Unpacking): Promise<void> {
  let broke = false;
  // Goes wrong for whoever reads it also when it broke before they began.
  const body = new PassThrough();
  try {
    const packed = await zip.openReadStreamPromise(entry).catch((error: unknown) => {
      broke = true;
      throw error;
    });
    packed.once('error', () => (broke = true));
    pipeline(packed, body).catch(() => {});
    await work.entry(name, body);
  } catch (error) {
    if (!broke) throw error;
    await work.refused(
      name,
      'This file in the package is cut off or damaged. Ask the sender for it once more.'
    );
  } finally {
    body.destroy();
  }
}

/** Names in packages are UTF-8 or, where they are none, the old western set. */
function nameOf({ fileName }: Entry): string {
  const bytes = fileName as unknown as Buffer;
  let text: string;
  try {
    text = new TextDecoder('utf-8', { fatal: true }).decode(bytes);
  } catch {
    text = new TextDecoder('windows-1252').decode(bytes);
  }
  return cleanText(text.replaceAll('\\', '/'));
}

function wrongWith(entry: Entry, name: string, total: number): string | null {
  if (name.split('/').includes('..') || /^(\/|[a-z]:)/i.test(name))
    return 'Its name points outside the package, which no sound package does. It was not read.';
  if ((entry.generalPurposeBitFlag & 1) === 1)
    return 'It is locked with a password. Ask the sender for one without.';
  const { uncompressedSize, compressedSize } = entry;
  if (uncompressedSize > mostEntryBytes) return 'It unpacks to more than Yonder Tray opens.';
  if (uncompressedSize > smallBytes && uncompressedSize > mostTightly * Math.max(1, compressedSize))
    return 'It is packed more tightly than any picture: it may have been made to do harm. It was not read.';
  if (total + uncompressedSize > mostBytes) return 'The package unpacks to more than is taken in at once.';
  return null;
}
