import type { Mark } from './strokes';

const cellPx = 64;
/** Where something lies, by its sides. */
export type Sides = Pick<Mark, 'left' | 'top' | 'right' | 'bottom'>;

/** Marks by where they lie, so that those near a place are found without looking at all. */
export class MarkGrid {
  private readonly cells = new Map<number, Mark[]>();
  private columns = 1;

  constructor(marks: readonly Mark[]) {
    for (const mark of marks) this.columns = Math.max(this.columns, Math.floor(mark.right / cellPx) + 2);
    for (const mark of marks)
      for (const cell of this.cellsOf(mark)) {
        const known = this.cells.get(cell);
        if (known) known.push(mark);
        else this.cells.set(cell, [mark]);
      }
  }

  private *cellsOf({ left, top, right, bottom }: Sides): Generator<number> {
    const first = Math.max(0, Math.floor(left / cellPx));
    const last = Math.min(this.columns - 1, Math.floor(right / cellPx));
    for (let row = Math.max(0, Math.floor(top / cellPx)); row <= Math.floor(bottom / cellPx); row++)
      for (let column = first; column <= last; column++) yield row * this.columns + column;
  }

  /** Marks in or beside some sides; one that lies over several fields comes several times. */
  *near(sides: Sides): Generator<Mark> {
    for (const cell of this.cellsOf(sides)) yield* this.cells.get(cell) ?? [];
  }
}
