/** Letters on a grid of five by seven, our own drawing: what a device burns into its pictures, and lead markers. */
const glyphs: Record<string, string> = {
  A: '01110 10001 10001 11111 10001 10001 10001',
  B: '11110 10001 10001 11110 10001 10001 11110',
  C: '01111 10000 10000 10000 10000 10000 01111',
  D: '11110 10001 10001 10001 10001 10001 11110',
  E: '11111 10000 10000 11110 10000 10000 11111',
  F: '11111 10000 10000 11110 10000 10000 10000',
  G: '01111 10000 10000 10011 10001 10001 01111',
  H: '10001 10001 10001 11111 10001 10001 10001',
  I: '11111 00100 00100 00100 00100 00100 11111',
  J: '00111 00010 00010 00010 00010 10010 01100',
  K: '10001 10010 10100 11000 10100 10010 10001',
  L: '10000 10000 10000 10000 10000 10000 11111',
  M: '10001 11011 10101 10101 10001 10001 10001',
  N: '10001 11001 10101 10011 10001 10001 10001',
  O: '01110 10001 10001 10001 10001 10001 01110',
  P: '11110 10001 10001 11110 10000 10000 10000',
  Q: '01110 10001 10001 10001 10101 10010 01101',
  R: '11110 10001 10001 11110 10100 10010 10001',
  S: '01111 10000 10000 01110 00001 00001 11110',
  T: '11111 00100 00100 00100 00100 00100 00100',
  U: '10001 10001 10001 10001 10001 10001 01110',
  V: '10001 10001 10001 10001 01010 01010 00100',
  W: '10001 10001 10001 10101 10101 11011 10001',
  X: '10001 01010 00100 00100 00100 01010 10001',
  Y: '10001 01010 00100 00100 00100 00100 00100',
  Z: '11111 00001 00010 00100 01000 10000 11111',
  '0': '01110 10011 10101 10101 10101 11001 01110',
  '1': '00100 01100 00100 00100 00100 00100 01110',
  '2': '01110 10001 00001 00110 01000 10000 11111',
  '3': '11110 00001 00001 01110 00001 00001 11110',
  '4': '00010 00110 01010 10010 11111 00010 00010',
  '5': '11111 10000 11110 00001 00001 10001 01110',
  '6': '00110 01000 10000 11110 10001 10001 01110',
  '7': '11111 00001 00010 00100 01000 01000 01000',
  '8': '01110 10001 10001 01110 10001 10001 01110',
  '9': '01110 10001 10001 01111 00001 00010 01100',
  '-': '00000 00000 00000 11111 00000 00000 00000',
  '.': '00000 00000 00000 00000 00000 01100 01100',
  ':': '00000 01100 01100 00000 01100 01100 00000',
  '/': '00001 00001 00010 00100 01000 10000 10000'
};

const columns = 5;
const rows = 7;

/** Which dots of a letter's grid are set, row by row from the top left; an unknown letter and a blank have none. */
export function dots(letter: string): { column: number; row: number }[] {
  const glyph = glyphs[letter.toUpperCase()];
  if (!glyph) return [];
  return glyph
    .split(' ')
    .flatMap((line, row) => [...line].flatMap((dot, column) => (dot === '1' ? [{ column, row }] : [])));
}

/** Where the letters of a line of text stand, in pixels. */
export interface WrittenBox {
  letter: string;
  x: number;
  y: number;
  width: number;
  height: number;
}

/** Writes a line of text into samples. Returns the box of each letter that is not blank. */
export function write(
  data: { [index: number]: number },
  width: number,
  height: number,
  text: string,
  at: { x: number; y: number; dotPx: number; value: number }
): WrittenBox[] {
  const boxes: WrittenBox[] = [];
  const advance = (columns + 1) * at.dotPx;
  for (const [i, letter] of [...text].entries()) {
    const set = dots(letter);
    if (set.length === 0) continue;
    const left = at.x + i * advance;
    for (const { column, row } of set) {
      for (let dy = 0; dy < at.dotPx; dy++) {
        for (let dx = 0; dx < at.dotPx; dx++) {
          const x = left + column * at.dotPx + dx;
          const y = at.y + row * at.dotPx + dy;
          if (x >= 0 && y >= 0 && x < width && y < height) data[y * width + x] = at.value;
        }
      }
    }
    boxes.push({ letter, x: left, y: at.y, width: columns * at.dotPx, height: rows * at.dotPx });
  }
  return boxes;
}
