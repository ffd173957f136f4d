import { createRequire } from 'node:module';
import fs from 'node:fs';
import * as fontkit from 'fontkit';
import type { Lettering } from '../../core/picture/overlay';

/** The letters that ship, in bold: the application's own first; what one has not is taken from the next. */
const own = 'atkinson-hyperlegible-next';
const further = 'noto-sans';
const files = [
  [own, 'latin'],
  [own, 'latin-ext'],
  ...['latin', 'latin-ext', 'vietnamese', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext'].map((part) => [
    further,
    part
  ]),
  // The corners of Palmer's notation of teeth.
  ['noto-sans-symbols', 'symbols']
];
let fonts: fontkit.Font[] | null = null;

function theFonts(): fontkit.Font[] {
  const resolve = createRequire(import.meta.url).resolve;
  return (fonts ??= files.map(([family, part]) => {
    const at = resolve(`@fontsource/${family}/files/${family}-${part}-700-normal.woff2`);
    return fontkit.create(fs.readFileSync(at)) as fontkit.Font;
  }));
}

const fontOf = (letter: string) =>
  theFonts().find((each) => each.hasGlyphForCodePoint(letter.codePointAt(0)!));

/** Letters of some words that none of them has. */
export const unlettered = (words: string): string[] => [
  ...new Set([...words].filter((letter) => !fontOf(letter)))
];

/** Words as outlines: what opens the picture needs no letters of ours. A letter that none of them has is left out. */
export const lettering: Lettering = (words, sizePx) => {
  let x = 0;
  const paths: string[] = [];
  for (const letter of words) {
    const font = fontOf(letter);
    if (!font) continue;
    const scale = sizePx / font.unitsPerEm;
    const [glyph] = font.glyphsForString(letter);
    paths.push(glyph.path.scale(scale, -scale).translate(x, 0).toSVG());
    x += glyph.advanceWidth * scale;
  }
  return { path: paths.join(''), width: x };
};
