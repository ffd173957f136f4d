import sharp from 'sharp';
import { Unusable } from '../pictures/decode/opened';
import { Problem } from '../problem';

export const mostLogoBytes = 8_000_000;
export const logoTooLarge = (bytes: number): Problem =>
  new Problem(
    'logo-too-large',
    `This logo has ${Math.ceil(bytes / 1e6)} MB; at most ${mostLogoBytes / 1e6} are taken.`,
    'Save it smaller: 1200 dots across are enough for paper.',
    413
  );
/** As fine as a printer shows it at its largest, and no picture of more samples is opened. */
const longestLogoPx = 1_200;
const mostLogoSamples = 60_000_000;
const logoKinds = ['svg', 'png', 'jpeg', 'webp', 'gif', 'tiff'];

/**
 * A logo as papers hold it: whatever came is drawn once, so that nothing but dots is kept. A script, a link or a file
 * named in a drawing comes to nothing.
 * @throws Unusable for what is no picture, Problem for what is too large
 */
export async function cleanLogo(bytes: Uint8Array): Promise<Buffer> {
  if (bytes.length > mostLogoBytes) throw logoTooLarge(bytes.length);
  const options = { limitInputPixels: mostLogoSamples, density: 300 };
  try {
    const { format } = await sharp(bytes, options).metadata();
    if (!logoKinds.includes(format ?? '')) throw new Error(`it is ${format}`);
    return await sharp(bytes, options)
      .rotate()
      .resize(longestLogoPx, longestLogoPx, { fit: 'inside', withoutEnlargement: format !== 'svg' })
      .png()
      .toBuffer();
  } catch {
    throw new Unusable(
      'logo-unreadable',
      'This file can’t be read as a picture.',
      'Choose an SVG, PNG or JPEG.'
    );
  }
}
