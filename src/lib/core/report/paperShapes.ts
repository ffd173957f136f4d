/** A line or a filled outline of a drawing on paper. */
export interface PaperShape {
  d: string;
  stroke: string;
  width: number;
  fill?: string;
  dashed?: true;
}

/** What such a drawing lies in. */
export interface PaperBox {
  left: number;
  top: number;
  width: number;
  height: number;
}

/** Inks on white paper, in every room the same. */
export const inks = { black: '#14211d', grey: '#9aa5a0', dark: '#5b6b65', skin: '#e9efe9', red: '#b5371f' };

/** Numbers of a path, to hundredths. */
export const at = (...numbers: number[]): string => numbers.map((each) => Number(each.toFixed(2))).join(' ');

export const dot = (x: number, y: number, r: number): string =>
  `M${at(x - r, y)}a${at(r, r)} 0 1 0 ${at(2 * r, 0)}a${at(r, r)} 0 1 0 ${at(-2 * r, 0)}Z`;
