import fs from 'node:fs';
import { pixelDataTag } from '../../../core/dicom/dictionary';
import { NotReadable, dicomStart, readDicom } from '../../../core/dicom/read';
import { short } from '../../../core/dicom/readValues';
import type { Says } from '../../../core/arrivals/says';
import { saysIn } from './dicomText';

/** So much of a file is read first; most heads are shorter. Where one is not, so much. */
const headBytes = 16 * 1024;
const longHeadBytes = 1024 * 1024;

/**
 * What the beginning of a DICOM picture's file says of whose it is. Null for what is no picture, or tells that only
 * further on; 'longer' where the beginning ends before the samples begin.
 */
export function headSays(head: Uint8Array, whole: boolean): Says | 'longer' | null {
  if (dicomStart(head) === null) return null;
  try {
    const set = readDicom(head, () => {
      throw new NotReadable('packed: it is told by what it turns out to be');
    });
    if (!set.elements.has(pixelDataTag)) return whole ? null : 'longer';
    if (short(set, '00280010') === undefined) return null;
    return saysIn(set);
  } catch {
    // Damaged, or cut off where it can't be: what the whole file turns out to be tells it, or its refusal.
    return null;
  }
}

/** One at a time is read, and what is told of it holds none of its bytes. */
const shortHead = Buffer.alloc(headBytes);

/** The same of a file on the disk, of which no more is read than is needed; null for one that can't be read. */
export function headSaysOf(file: string): Says | null {
  let handle: number | null = null;
  try {
    handle = fs.openSync(file, 'r');
    for (const most of [headBytes, longHeadBytes]) {
      const head = most === headBytes ? shortHead : Buffer.allocUnsafe(most);
      const length = fs.readSync(handle, head, 0, most, 0);
      const says = headSays(head.subarray(0, length), length < most || most === longHeadBytes);
      if (says !== 'longer') return says;
    }
    return null;
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === undefined) throw error;
    return null;
  } finally {
    if (handle !== null) fs.closeSync(handle);
  }
}
