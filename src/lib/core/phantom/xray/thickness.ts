import { type Vec3, add, times } from '../space';
import { type Rectangle, coveredBy } from './covered';
import { type RayTest, type Stretch, enclosing, finest, raysFrom } from '../solid/rays';
import type { Part } from '../solid/part';
import type { Layer, Weave } from './layer';
import { type XrayView, magnificationAt } from './view';

const tilePx = 32;
/** Cells start at this size and are split until a straight interpolation is good enough. */
const coarsestCellPx = 8;
/** Interpolated attenuation may be off by this: a few thousandths of what reaches the detector, well below its noise. */
const tolerance = 2.5e-3;
/** Cells no larger than this are not split only because other pieces were met: at joints nothing else changes. */
const jointCellPx = 4;
/** Where a weave is sampled along a stretch, as shares of its length. */
const weaveAt = [0.15, 0.5, 0.85];
const asksPerGrain = 4;
/** A pixel at a sharp edge is looked at in this many places each way. */
const subPixels = 4;

/** A part's ray test, and where in the picture it may be met. */
interface Piece extends Rectangle {
  id: number;
  test: RayTest;
}

/** Adds a layer's attenuation to a picture-sized map, row by row. Cost goes with the area the layer covers. */
export function addLayer(map: Float32Array, view: XrayView, layer: Layer): void {
  const parts = layer.parts.map((part, i) => pieceOf(view, part, i + 1));
  const minus = (layer.minus ?? []).map((part, i) => pieceOf(view, part, i + 1001));
  const cellPx = cellFor(view, [...layer.parts, ...(layer.minus ?? [])]);
  const tile = new Tile(map, view, layer, cellPx);
  for (let top = 0; top < view.height; top += tilePx) {
    for (let left = 0; left < view.width; left += tilePx) {
      const here = parts.filter((piece) => touches(piece, left, top, tilePx));
      if (here.length === 0) continue;
      const gone = minus.filter((piece) => touches(piece, left, top, tilePx));
      tile.fill(left, top, here, gone);
    }
  }
}

function touches(piece: Piece, left: number, top: number, size: number): boolean {
  return piece.right > left && piece.left < left + size && piece.bottom > top && piece.top < top + size;
}

const pieceOf = (view: XrayView, part: Part, id: number): Piece => ({
  id,
  test: raysFrom(view.source, part),
  ...coveredBy(view, part)
});

/** Small enough that nothing of the layer can slip between a cell's corners and its middle. */
function cellFor(view: XrayView, parts: Part[]): number {
  let cell = coarsestCellPx;
  for (const part of parts) {
    const px = (finest(part) * magnificationAt(view, enclosing(part).center)) / view.pitchMm;
    while (cell > 1 && px < 2.5 * cell) cell /= 2;
  }
  return cell;
}

const side = tilePx + 1;

/**
 * Works through a picture tile by tile. What a ray met is kept for the tile's pixel middles: millimetres inside, where
 * their middle is along the ray (as a share of the way to the detector), and a number that says which pieces it met.
 */
class Tile {
  private left = 0;
  private top = 0;
  private right = 0;
  private bottom = 0;
  private parts: Piece[] = [];
  private minus: Piece[] = [];
  private readonly seen = new Uint8Array(side * side);
  private readonly metMm = new Float32Array(side * side);
  private readonly metMiddle = new Float32Array(side * side);
  private readonly metPieces = new Int32Array(side * side);
  private readonly stretch: Stretch = { from: 0, to: 0 };
  private from = new Float64Array(256);
  private to = new Float64Array(256);
  private readonly wovenMm: Float32Array;
  private readonly wovenMiddle: Float32Array;
  private readonly base: Vec3;
  private readonly acrossStep: Vec3;
  private readonly downStep: Vec3;
  /** What the last ray met. */
  private mm = 0;
  private middle = 0;
  private pieces = 0;

  constructor(
    private readonly map: Float32Array,
    private readonly view: XrayView,
    private readonly layer: Layer,
    private readonly cellPx: number
  ) {
    const held = layer.weave ? tilePx * tilePx : 0;
    this.wovenMm = new Float32Array(held);
    this.wovenMiddle = new Float32Array(held);
    this.base = add(view.corner, times(view.source, -1));
    this.acrossStep = times(view.across, view.pitchMm);
    this.downStep = times(view.down, view.pitchMm);
  }

  fill(left: number, top: number, parts: Piece[], minus: Piece[]): void {
    this.left = left;
    this.top = top;
    this.right = Math.min(this.view.width, left + tilePx);
    this.bottom = Math.min(this.view.height, top + tilePx);
    this.seen.fill(0);
    this.wovenMm.fill(0);
    this.wovenMiddle.fill(0);
    const { cellPx } = this;
    for (let y = top; y < this.bottom; y += coarsestCellPx) {
      for (let x = left; x < this.right; x += coarsestCellPx) {
        this.parts = parts.filter((piece) => touches(piece, x, y, coarsestCellPx + 1));
        if (this.parts.length === 0) continue;
        this.minus = minus.filter((piece) => touches(piece, x, y, coarsestCellPx + 1));
        for (let dy = 0; dy < coarsestCellPx; dy += cellPx)
          for (let dx = 0; dx < coarsestCellPx; dx += cellPx) this.cell(x + dx, y + dy, cellPx);
      }
    }
    if (this.layer.weave) this.weaveIn(this.layer.weave);
  }

  /** Pixels x to x+size-1 and y to y+size-1. */
  private cell(x: number, y: number, size: number): void {
    if (size === 1) {
      this.pixel(x, y);
      return;
    }
    const half = size / 2;
    const a = this.at(x, y);
    const b = this.at(x + size, y);
    const c = this.at(x, y + size);
    const d = this.at(x + size, y + size);
    const m = this.at(x + half, y + half);
    const { metMm, metMiddle, metPieces } = this;
    const met = metPieces[a];
    const same = met === metPieces[b] && met === metPieces[c] && met === metPieces[d] && met === metPieces[m];
    const bend = Math.abs(metMm[m] - (metMm[a] + metMm[b] + metMm[c] + metMm[d]) / 4);
    if ((!same && size > jointCellPx) || bend * Math.abs(this.layer.perMm) > tolerance) {
      this.cell(x, y, half);
      this.cell(x + half, y, half);
      this.cell(x, y + half, half);
      this.cell(x + half, y + half, half);
      return;
    }
    if (same && met === 0) return;
    const xEnd = Math.min(this.right, x + size);
    const yEnd = Math.min(this.bottom, y + size);
    for (let py = y; py < yEnd; py++) {
      const v = (py - y) / size;
      const mmLeft = metMm[a] + (metMm[c] - metMm[a]) * v;
      const mmStep = (metMm[b] + (metMm[d] - metMm[b]) * v - mmLeft) / size;
      const middleLeft = metMiddle[a] + (metMiddle[c] - metMiddle[a]) * v;
      const middleStep = (metMiddle[b] + (metMiddle[d] - metMiddle[b]) * v - middleLeft) / size;
      for (let px = x; px < xEnd; px++) {
        const mm = mmLeft + mmStep * (px - x);
        if (mm > 0) this.put(px, py, mm, middleLeft + middleStep * (px - x));
      }
    }
  }

  private pixel(x: number, y: number): void {
    if (x >= this.right || y >= this.bottom) return;
    if (!this.layer.sharp) {
      const at = this.at(x, y);
      if (this.metMm[at] > 0) this.put(x, y, this.metMm[at], this.metMiddle[at]);
      return;
    }
    // A pixel adds up what passes its parts, not the millimetres in them: at a steel ball's rim they differ much.
    const { perMm } = this.layer;
    let passes = 0;
    let mm = 0;
    let middle = 0;
    for (let i = 0; i < subPixels * subPixels; i++) {
      const column = i % subPixels;
      const row = (i - column) / subPixels;
      this.meet(x + (column + 0.5) / subPixels - 0.5, y + (row + 0.5) / subPixels - 0.5);
      passes += Math.exp(-this.mm * perMm);
      mm += this.mm;
      middle += this.middle;
    }
    const parts = subPixels * subPixels;
    if (mm > 0) this.put(x, y, -Math.log(passes / parts) / perMm, middle / parts);
  }

  private put(x: number, y: number, mm: number, middle: number): void {
    if (this.layer.weave) {
      const at = (y - this.top) * tilePx + x - this.left;
      this.wovenMm[at] = mm;
      this.wovenMiddle[at] = middle;
    } else this.map[y * this.view.width + x] += mm * this.layer.perMm;
  }

  /** Multiplies what the tile holds with the weave, which is asked on a grid as fine as its grain needs. */
  private weaveIn({ factor, grainMm }: Weave): void {
    const { width, pitchMm } = this.view;
    const filled = this.wovenMiddle.findIndex((middle) => middle > 0);
    if (filled < 0) return;
    const grainPx = grainMm / (pitchMm * this.wovenMiddle[filled]);
    const step = Math.max(1, Math.min(8, 2 ** Math.floor(Math.log2(grainPx / asksPerGrain))));
    const columns = tilePx / step + 1;
    const grid = new Float32Array(columns * columns).fill(NaN);
    const ask = (gx: number, gy: number, at: number): number => {
      const cell = gy * columns + gx;
      if (Number.isNaN(grid[cell]))
        grid[cell] = this.woven(
          factor,
          this.left + gx * step,
          this.top + gy * step,
          this.wovenMm[at],
          this.wovenMiddle[at]
        );
      return grid[cell];
    };
    for (let y = this.top; y < this.bottom; y++) {
      const gy = Math.floor((y - this.top) / step);
      const v = (y - this.top) / step - gy;
      for (let x = this.left; x < this.right; x++) {
        const at = (y - this.top) * tilePx + x - this.left;
        const mm = this.wovenMm[at];
        if (mm === 0) continue;
        const gx = Math.floor((x - this.left) / step);
        const u = (x - this.left) / step - gx;
        let value = ask(gx, gy, at);
        if (step > 1) {
          value += (ask(gx + 1, gy, at) - value) * u;
          const below = ask(gx, gy + 1, at);
          value += (below + (ask(gx + 1, gy + 1, at) - below) * u - value) * v;
        }
        this.map[y * width + x] += mm * this.layer.perMm * value;
      }
    }
  }

  private woven(factor: Weave['factor'], x: number, y: number, mm: number, middle: number): number {
    const { source } = this.view;
    const [dx, dy, dz] = this.direction(x, y);
    const length = Math.hypot(dx, dy, dz);
    let sum = 0;
    for (const share of weaveAt) {
      const t = middle + ((share - 0.5) * mm) / length;
      sum += factor([source[0] + t * dx, source[1] + t * dy, source[2] + t * dz]);
    }
    return sum / weaveAt.length;
  }

  /** From the source to the middle of a pixel. */
  private direction(x: number, y: number): Vec3 {
    const { base, acrossStep, downStep } = this;
    const px = x + 0.5;
    const py = y + 0.5;
    return [
      base[0] + acrossStep[0] * px + downStep[0] * py,
      base[1] + acrossStep[1] * px + downStep[1] * py,
      base[2] + acrossStep[2] * px + downStep[2] * py
    ];
  }

  private at(x: number, y: number): number {
    const at = (y - this.top) * side + (x - this.left);
    if (this.seen[at] === 0) {
      this.meet(x, y);
      this.seen[at] = 1;
      this.metMm[at] = this.mm;
      this.metMiddle[at] = this.middle;
      this.metPieces[at] = this.pieces;
    }
    return at;
  }

  private meet(x: number, y: number): void {
    const { stretch, from, to, base, acrossStep, downStep } = this;
    const px = x + 0.5;
    const py = y + 0.5;
    const dx = base[0] + acrossStep[0] * px + downStep[0] * py;
    const dy = base[1] + acrossStep[1] * px + downStep[1] * py;
    const dz = base[2] + acrossStep[2] * px + downStep[2] * py;
    let count = 0;
    let pieces = 0;
    for (let i = 0; i < this.parts.length; i++) {
      if (!this.parts[i].test(dx, dy, dz, stretch)) continue;
      // What lies behind the detector is not in the picture.
      if (stretch.from >= 1) continue;
      pieces = (pieces * 31 + this.parts[i].id) | 0;
      let at = count++;
      while (at > 0 && from[at - 1] > stretch.from) {
        from[at] = from[at - 1];
        to[at] = to[at - 1];
        at--;
      }
      from[at] = stretch.from;
      to[at] = stretch.to > 1 ? 1 : stretch.to;
    }
    this.mm = 0;
    this.middle = 0;
    this.pieces = 0;
    if (count === 0) return;
    let merged = 0;
    for (let i = 1; i < count; i++) {
      if (from[i] <= to[merged]) {
        if (to[i] > to[merged]) to[merged] = to[i];
      } else {
        merged++;
        from[merged] = from[i];
        to[merged] = to[i];
      }
    }
    count = merged + 1;
    for (let i = 0; i < this.minus.length && count > 0; i++) {
      if (!this.minus[i].test(dx, dy, dz, stretch)) continue;
      pieces = (pieces * 31 + this.minus[i].id) | 0;
      count = this.takeAway(count, stretch.from, stretch.to);
    }
    let inside = 0;
    let moment = 0;
    for (let i = 0; i < count; i++) {
      const length = to[i] - from[i];
      inside += length;
      moment += length * (from[i] + to[i]);
    }
    this.mm = inside * Math.sqrt(dx * dx + dy * dy + dz * dz);
    this.middle = inside > 0 ? moment / inside / 2 : 0;
    this.pieces = pieces || 1;
  }

  /** Removes a stretch from those held; one in the middle of another leaves two. Returns how many there are then. */
  private takeAway(count: number, start: number, end: number): number {
    const { from, to } = this;
    let kept = 0;
    for (let i = 0; i < count; i++) {
      const a = from[i];
      const b = to[i];
      if (end <= a || start >= b) {
        from[kept] = a;
        to[kept++] = b;
      } else if (start > a && end < b) {
        for (let j = count; j > i + 1; j--) {
          from[j] = from[j - 1];
          to[j] = to[j - 1];
        }
        from[i + 1] = end;
        to[i + 1] = b;
        from[kept] = a;
        to[kept++] = start;
        count++;
      } else if (start > a) {
        from[kept] = a;
        to[kept++] = start;
      } else if (end < b) {
        from[kept] = end;
        to[kept++] = b;
      }
    }
    return kept;
  }
}
