import { letterPx as stageLetterPx } from '../../core/picture/overlay';
import type { PictureOnPaper } from '../../core/report/visitReport';
import { shownOutside } from '../work/processes';

/** Letters on a picture are so high on paper, whatever the picture's size. */
const letterMm = 2.4;

/** A picture as it is seen, as a JPEG as fine as a printer shows greys. @param mm how long its longer side is on paper */
export function jpegOnPaper(
  clinicId: string,
  picture: PictureOnPaper,
  mm: number,
  samplesPerInch = 220
): Promise<Uint8Array> {
  const longestPx = Math.max(1, Math.round((mm / 25.4) * samplesPerInch));
  return shownOutside({
    clinicId,
    ...picture,
    bar: null,
    as: 'jpeg',
    longestPx,
    drawnForPx: (longestPx * stageLetterPx) / ((letterMm / 25.4) * samplesPerInch)
  });
}
