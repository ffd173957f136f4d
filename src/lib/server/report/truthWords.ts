import { trueSize } from '../../core/print/trueSize';
import { numberIn } from '../../core/time/language';
import type { PictureView } from '../../core/picture/pictureView';

/** How sure a length on a picture is that is printed at its true size, and where its scale came from, said under it. */
export function truthWords(view: PictureView, language: string): string {
  const { plusMinusShare, source } = trueSize(view)!;
  const plusMinus = 100 * plusMinusShare;
  return `100 mm on it are 100 ± ${numberIn(plusMinus, plusMinus < 1 ? 1 : 0, language)} mm; scale: ${source}`;
}
