import sharp from 'sharp';
import { type FilmBox, stripLineMm } from '../../core/print/film';
import { lettering, unlettered } from '../takenOut/lettering';
import type { ShownOutside } from '../takenOut/outside';

/** A picture of a film as it is laid out: what is seen of it, and the words under it. */
export interface FilmBoxWish {
  shown: ShownOutside;
  at: FilmBox;
  lines: readonly string[];
  /** Whether a ruler stands under it, to be measured. */
  ruler: boolean;
  colour: boolean;
}

/** The same as dots: 8 bits a sample, grey, or red, green and blue a dot. */
export interface FilmBoxMade {
  width: number;
  height: number;
  channels: 1 | 3;
  samples: Uint8Array;
}

/** As fine as film printers print. A box of 90 mm has 900 dots: its millimetres are whole tenths. */
export const dotsPerMm = 10;
const letterMm = 2.5;
const leastLetterMm = 1.4;
const marginMm = 1;
export const filmRulerMm = 50;

export const boxDots = ({ box }: FilmBox): { width: number; height: number } => ({
  width: Math.max(1, Math.round(box.width * dotsPerMm)),
  height: Math.max(1, Math.round(box.height * dotsPerMm))
});

/** How fine a picture of a film has to be, as {@link ShownOutside} is told. */
export const filmFineness = ({ picture }: FilmBox): { longestPx: number; drawnForPx: number } => {
  const longestPx = Math.max(1, Math.round(Math.max(picture.width, picture.height) * dotsPerMm));
  // Letters on a picture of 900 dots are 18 high: on film they are as high as in the words under it.
  return { longestPx, drawnForPx: (longestPx * 18) / (letterMm * dotsPerMm) };
};

/** Puts a picture, made so fine, and its words into one. @param picture as PNG */
export async function filmBox(
  picture: Uint8Array,
  { at, lines, ruler, colour }: Omit<FilmBoxWish, 'shown'>
): Promise<FilmBoxMade> {
  const { width, height } = boxDots(at);
  const shown = {
    width: Math.min(width, Math.max(1, Math.round(at.picture.width * dotsPerMm))),
    height: Math.min(height, Math.max(1, Math.round(at.picture.height * dotsPerMm)))
  };
  const left = Math.round((width - shown.width) / 2);
  const seen = await sharp(picture)
    .resize(shown.width, shown.height, { fit: 'fill', kernel: 'cubic' })
    .png({ compressionLevel: 0 })
    .toBuffer();
  const words = stripSvg({ width, height }, shown.height, lines, ruler);
  const { data, info } = await sharp({
    create: { width, height, channels: 3, background: '#000' }
  })
    .composite([
      { input: seen, left, top: 0 },
      { input: Buffer.from(words), left: 0, top: 0 }
    ])
    .toColourspace(colour ? 'srgb' : 'b-w')
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { width, height, channels: info.channels === 3 ? 3 : 1, samples: new Uint8Array(data) };
}

/** Words in white on the dark of the film, each line as large as its room allows, and a ruler over the last of them. */
function stripSvg(
  { width, height }: { width: number; height: number },
  top: number,
  lines: readonly string[],
  ruler: boolean
): string {
  const margin = marginMm * dotsPerMm;
  const line = stripLineMm * dotsPerMm;
  const drawn = lines.map((words, i) => {
    const { letters, path } = fitted(whole(words), width - 2 * margin);
    const y = top + i * line + (line + letters) / 2;
    return `<path transform="translate(${margin} ${y.toFixed(1)})" d="${path}" fill="#fff"/>`;
  });
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}">`,
    ...drawn,
    ruler ? rulerSvg(margin, top + lines.length * line + 0.75 * line) : '',
    '</svg>'
  ].join('');
}

/** Whose picture it is must not be guessed from what is left of a name. */
const whole = (words: string) => {
  const missing = unlettered(words);
  return [...words].map((letter) => (missing.includes(letter) ? '?' : letter)).join('');
};

/** A line that does not fit is written smaller, and cut where it would be too small to be read. */
function fitted(words: string, room: number): { letters: number; path: string } {
  const full = letterMm * dotsPerMm;
  const by = Math.min(1, room / lettering(words, full).width);
  const letters = Math.max(leastLetterMm * dotsPerMm, full * by);
  let said = words;
  while (said.length > 1 && lettering(said, letters).width > room) said = `${said.slice(0, -2).trimEnd()}…`;
  return { letters: letters * 0.7, path: lettering(said, letters).path };
}

function rulerSvg(left: number, y: number): string {
  const ticks = Array.from({ length: filmRulerMm / 10 + 1 }, (_, i) => i);
  const d = [
    `M${left} ${y}h${filmRulerMm * dotsPerMm}`,
    ...ticks.map((cm) => `M${left + cm * 10 * dotsPerMm} ${y}v${-(cm % 5 === 0 ? 1.6 : 1) * dotsPerMm}`)
  ].join('');
  const said = lettering(`${filmRulerMm} mm: measure it`, 2.2 * dotsPerMm);
  return (
    `<path d="${d}" fill="none" stroke="#fff" stroke-width="3"/>` +
    `<path transform="translate(${left + (filmRulerMm + 2) * dotsPerMm} ${y})" d="${said.path}" fill="#fff"/>`
  );
}

/** One colour after the other, as an image box wants them (Planar Configuration 1). */
export function byColour({ samples, channels }: FilmBoxMade): Uint8Array {
  if (channels === 1) return samples;
  const dots = samples.length / 3;
  const planes = new Uint8Array(samples.length);
  for (let i = 0; i < dots; i++) for (let c = 0; c < 3; c++) planes[c * dots + i] = samples[3 * i + c];
  return planes;
}

export const filmJpeg = ({ width, height, channels, samples }: FilmBoxMade): Promise<Uint8Array> =>
  sharp(samples, { raw: { width, height, channels } }).jpeg({ quality: 90 }).toBuffer();
