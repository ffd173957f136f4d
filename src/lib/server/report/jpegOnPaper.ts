import { letterPx as stageLetterPx } from '../../core/picture/overlay';
import type { PictureOnPaper } from '../../core/report/visitReport';
import { log } from '../log';
import { shownOutside } from '../work/processes';

/** Letters on a picture are so high on paper, whatever the picture's size. */
const letterMm = 2.4;

/**
 * A picture as it is seen, as a JPEG as fine as a printer shows greys; null for one that can't be read, which is no
 * reason to have no paper.
 * @param mm how long its longer side is on paper
 */
export async function jpegOnPaper(
  clinicId: string,
  picture: PictureOnPaper,
  mm: number,
  samplesPerInch = 220
): Promise<Uint8Array | null> {
  const longestPx = Math.max(1, Math.round((mm / 25.4) * samplesPerInch));
  try {
    return await shownOutside({
      clinicId,
      ...picture,
      bar: null,
      as: 'jpeg',
      longestPx,
      drawnForPx: (longestPx * stageLetterPx) / ((letterMm / 25.4) * samplesPerInch)
    });
  } catch (error) {
    log.warn({ err: error, picture: picture.pictureId }, 'a picture is missing on paper');
    return null;
  }
}
