import { PDFDocument } from 'pdf-lib';
import { Unusable } from '../pictures/decode/opened';

/** What is known of a paper once it was opened. */
export interface OpenedPaper {
  pages: number;
}

/** Where readers look for the mark of a PDF (ISO 32000-1, 7.5.2 and its annex H). */
const markWithin = 1024;
/** Its last line (7.5.5), with room for what mail programs append. */
const endWithin = 4096;

/** Opens a PDF as far as to know that it can be read. @throws Unusable in words */
export async function openPaper(bytes: Buffer): Promise<OpenedPaper> {
  if (!bytes.subarray(0, markWithin).includes('%PDF-'))
    throw new Unusable(
      'not-a-paper',
      bytes.length === 0 ? 'This file is empty.' : 'This file is not a PDF.',
      'Pictures are brought in at Acquire. Save another paper as a PDF first.'
    );
  // A reader that mends what is cut off would show part of it as the whole.
  if (!bytes.subarray(-endWithin).includes('%%EOF')) throw damaged();
  let pages: number;
  try {
    pages = (
      await PDFDocument.load(bytes, { updateMetadata: false, throwOnInvalidObject: true })
    ).getPageCount();
  } catch (error) {
    // The library's error is no instance of its own class: it is known by what it says.
    if (error instanceof Error && /is encrypted/.test(error.message))
      throw new Unusable(
        'locked',
        'This PDF opens with a password only, so nobody could read it here.',
        'Save it without one and bring it in again.'
      );
    throw damaged();
  }
  if (!(pages > 0)) throw damaged();
  return { pages };
}

const damaged = () =>
  new Unusable(
    'cut-off',
    'This PDF is cut off or damaged.',
    'Copy it again from where it came, or ask the sender for it once more.'
  );
