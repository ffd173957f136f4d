import type { SizeMm } from './paper';

/** Film and paper that a film printer is asked for, standing, in mm: the terms of Film Size ID (DICOM PS3.3 C.13.3). */
export const filmSizes = {
  '8INX10IN': { width: 203.2, height: 254, words: '8 × 10 in' },
  '10INX12IN': { width: 254, height: 304.8, words: '10 × 12 in' },
  '10INX14IN': { width: 254, height: 355.6, words: '10 × 14 in' },
  '11INX14IN': { width: 279.4, height: 355.6, words: '11 × 14 in' },
  '14INX14IN': { width: 355.6, height: 355.6, words: '14 × 14 in' },
  '14INX17IN': { width: 355.6, height: 431.8, words: '14 × 17 in' },
  '24CMX30CM': { width: 240, height: 300, words: '24 × 30 cm' },
  A4: { width: 210, height: 297, words: 'A4' },
  A3: { width: 297, height: 420, words: 'A3' }
} as const;
export type FilmSize = keyof typeof filmSizes;
export const filmSizeNames = Object.keys(filmSizes) as [FilmSize, ...FilmSize[]];

/** What is in the printer: the terms of Medium Type (PS3.3 C.13.1). */
export const mediums = ['CLEAR FILM', 'BLUE FILM', 'PAPER'] as const;
export type Medium = (typeof mediums)[number];
export const mediumWords: Readonly<Record<Medium, string>> = {
  'CLEAR FILM': 'Clear film',
  'BLUE FILM': 'Blue film',
  PAPER: 'Paper'
};

/** A film as it lies. @param lying its longer side across */
export const filmOf = (size: FilmSize, lying: boolean): SizeMm => {
  const { width, height } = filmSizes[size];
  return lying ? { width: height, height: width } : { width, height };
};

/** So much is left free around each picture: printers differ in how near to the edge they come. */
export const filmFreeMm = 5;
/** What stands under a picture: whose it is, what it is, and how true. */
export const stripLineMm = 3.6;
/** A picture narrower than this has dark beside it, so that its words have room. */
export const leastBoxMm = 90;

/** A picture and the words under it, as one picture of a film. */
export interface FilmBox {
  /** Picture and words together, in mm. */
  box: SizeMm;
  /** The picture alone: in the middle, at the top. */
  picture: SizeMm;
}

/** Room for one picture of a film that is parted in so many columns and rows. */
export const filmCell = (film: SizeMm, { across, down }: { across: number; down: number }): SizeMm => ({
  width: film.width / across - 2 * filmFreeMm,
  height: film.height / down - 2 * filmFreeMm
});

/**
 * A picture at its own size with its words under it.
 * @param lines how many lines of words stand under it
 * @throws RangeError where the cell is smaller; its message says how large a film it wants
 */
export function trueBox(picture: SizeMm, cell: SizeMm, lines: number): FilmBox {
  const box = {
    width: Math.max(picture.width, Math.min(leastBoxMm, cell.width)),
    height: picture.height + lines * stripLineMm
  };
  if (box.width > cell.width + 1e-6 || box.height > cell.height + 1e-6)
    throw new RangeError(
      `${Math.ceil(box.width + 2 * filmFreeMm)} × ${Math.ceil(box.height + 2 * filmFreeMm)} mm`
    );
  return { box, picture };
}

/** A picture as large as its room allows with its words under it. @param picture its size in any unit */
export function fittedBox(picture: SizeMm, cell: SizeMm, lines: number): FilmBox {
  const room = { width: cell.width, height: Math.max(cell.height / 2, cell.height - lines * stripLineMm) };
  const by = Math.min(room.width / picture.width, room.height / picture.height);
  return { box: cell, picture: { width: picture.width * by, height: picture.height * by } };
}

/** Things in order, so many a film. */
export const perFilm = <T>(things: readonly T[], each: number): T[][] =>
  Array.from({ length: Math.ceil(things.length / each) }, (_, i) => things.slice(i * each, (i + 1) * each));
