import type { Scale } from '../calibration/scale';

export interface ScaleBar {
  /** In widths of a pixel of the picture. */
  lengthPx: number;
  /** What it says: millimetres where they are known, pixels where they are not. */
  words: string;
}

const steps = [1, 2, 5];

/**
 * The longest bar of a round length that fits a width: 1, 2 or 5 times a power of ten, of millimetres where the picture
 * has a scale, else of pixels. A picture 400 pixels wide at 0.1 mm a pixel, with room for 100: a bar of 100 pixels, "10 mm".
 *
 * @param mostPx how long it may be, in widths of a pixel
 * @returns null where no bar of a thousandth of a millimetre, or of one pixel, fits
 */
export function scaleBar(scale: Scale | null, mostPx: number): ScaleBar | null {
  const perPx = scale ? scale.mmPerPixelX : 1;
  const most = mostPx * perPx;
  if (!(most > 0) || !Number.isFinite(most)) return null;
  const power = 10 ** Math.floor(Math.log10(most) + 1e-9);
  const length = steps.map((step) => step * power).findLast((each) => each <= most * (1 + 1e-9));
  if (length === undefined || length < (scale ? 0.001 : 1)) return null;
  const words = `${Number(length.toPrecision(1))} ${scale ? 'mm' : 'px'}`;
  return {
    lengthPx: length / perPx,
    words: scale?.source === 'detector' ? `${words} at the detector` : words
  };
}
