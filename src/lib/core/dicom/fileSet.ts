import type { ReadSet } from './readSet';
import { codes } from './readValues';

/** A file that a disc's index (DICOMDIR, PS3.10 8, PS3.3 F) names. */
export interface IndexedFile {
  /** Where it should lie, from the index's own folder, with "/" between folders. */
  path: string;
  /** Whether its name leads out of the disc, which no sound index says. */
  outside: boolean;
}

/** The files that a DICOMDIR names, in its order, each once. Nothing is ever read by these names. */
export function indexedFiles(set: ReadSet): IndexedFile[] {
  const records = set.elements.get('00041220')?.items ?? [];
  const found = new Map<string, IndexedFile>();
  for (const record of records) {
    const parts = codes(record, '00041500').map((part) => part.trim());
    if (parts.length === 0 || parts.every((part) => part === '')) continue;
    const path = parts.join('/');
    const outside = parts.some((part) => part === '..' || part === '' || /[/\\:]/.test(part));
    if (!found.has(path)) found.set(path, { path, outside });
  }
  return [...found.values()];
}
