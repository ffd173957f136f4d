import fs from 'node:fs';
import path from 'node:path';
import * as fontkit from 'fontkit';
import pdfmake from 'pdfmake';

const folder = path.resolve('node_modules/@fontsource');
const fileOf = (
  { of, subset, upright }: { of: string; subset: string; upright?: boolean },
  weight: 400 | 700,
  slant: 'normal' | 'italic' = 'normal'
) => path.join(folder, of, 'files', `${of}-${subset}-${weight}-${upright ? 'normal' : slant}.woff`);

/** The fonts that ship, by what pdfmake knows them as: each letter is written with the first that has it. */
const own = 'atkinson-hyperlegible-next';
const families = {
  Atkinson: { of: own, subset: 'latin' },
  AtkinsonFurther: { of: own, subset: 'latin-ext' },
  Noto: { of: 'noto-sans', subset: 'latin' },
  NotoFurther: { of: 'noto-sans', subset: 'latin-ext' },
  NotoVietnamese: { of: 'noto-sans', subset: 'vietnamese' },
  NotoGreek: { of: 'noto-sans', subset: 'greek' },
  NotoOldGreek: { of: 'noto-sans', subset: 'greek-ext' },
  NotoCyrillic: { of: 'noto-sans', subset: 'cyrillic' },
  NotoOldCyrillic: { of: 'noto-sans', subset: 'cyrillic-ext' },
  // The corners of Palmer's notation of teeth.
  NotoSymbols: { of: 'noto-sans-symbols', subset: 'symbols', upright: true }
} as const;
type Family = keyof typeof families;
const names = Object.keys(families) as Family[];
export const plainFont: Family = 'Atkinson';

/** Part of a document as pdfmake understands it. */
export type Content = Record<string, unknown>;

let known: { family: Family; font: fontkit.Font }[] | null = null;
const fonts = () =>
  (known ??= names.map((family) => ({
    family,
    font: fontkit.create(fs.readFileSync(fileOf(families[family], 400))) as fontkit.Font
  })));

/** What stands in a text for a letter that no font here has. */
const unknownLetter = '?';
/** Marks of how to write, and what is not seen, may be missing. */
const isUnseen = (letter: string) => /\p{M}|\p{C}/u.test(letter);

/** @param first the font that is wanted, where it has the letter */
function familyOf(letter: string, first: Family = plainFont): Family | null {
  if (/\s/.test(letter)) return first;
  const has = ({ font }: { font: fontkit.Font }) => font.hasGlyphForCodePoint(letter.codePointAt(0)!);
  const wanted = fonts().find(({ family }) => family === first)!;
  return has(wanted) ? first : (fonts().find(has)?.family ?? null);
}
const hasBlank = (family: Family) =>
  fonts()
    .find((each) => each.family === family)!
    .font.hasGlyphForCodePoint(32);

/** Letters of a text that no font has: somebody is told before it stands on paper without them. */
export const unwritable = (text: string): string[] => [
  ...new Set([...text.normalize('NFC')].filter((letter) => !isUnseen(letter) && familyOf(letter) === null))
];

/** A text in pieces, each with the font that has its letters; composed first, so that marks stand on their letters. */
function pieces(text: string, first: Family): { text: string; font: Family }[] {
  const out: { text: string; font: Family }[] = [];
  for (const letter of text.normalize('NFC')) {
    const family = familyOf(letter, first);
    const written = family ? letter : isUnseen(letter) ? '' : unknownLetter;
    const last = out.at(-1);
    if (last && (last.font === (family ?? first) || (letter === ' ' && hasBlank(last.font))))
      last.text += written;
    else out.push({ text: written, font: family ?? first });
  }
  return out;
}

/** The same document with every text written by the fonts that have its letters. */
export function lettered(node: unknown): unknown {
  if (Array.isArray(node)) return node.map(lettered);
  if (node === null || typeof node !== 'object') return node;
  const first = names.find((each) => each === (node as Content).font) ?? plainFont;
  return Object.fromEntries(
    Object.entries(node).map(([key, value]) => {
      if (key !== 'text') return [key, typeof value === 'object' ? lettered(value) : value];
      if (typeof value !== 'string') return [key, lettered(value)];
      const parts = pieces(value, first);
      return [
        key,
        parts.every(({ font }) => font === first) ? parts.map(({ text }) => text).join('') : parts
      ];
    })
  );
}

/** Nothing is fetched, and no file is read but the fonts that ship. */
export function setFonts(): void {
  pdfmake.setUrlAccessPolicy(() => false);
  pdfmake.setLocalAccessPolicy((at) => path.resolve(at).startsWith(folder));
  pdfmake.setFonts(
    Object.fromEntries(
      names.map((family) => [
        family,
        {
          normal: fileOf(families[family], 400),
          bold: fileOf(families[family], 700),
          italics: fileOf(families[family], 400, 'italic'),
          bolditalics: fileOf(families[family], 700, 'italic')
        }
      ])
    )
  );
}
