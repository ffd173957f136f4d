import { type Vec3, add, times } from '../space';
import { type RayTest, type Stretch, enclosing, finest, raysFrom } from '../solid/rays';
import type { Part } from '../solid/part';
import type { Layer } from './layer';
import { type XrayView, magnificationAt, projected } from './view';

const tilePx = 32;
/** Cells start at this size and are split until a straight interpolation is good enough. */
const coarsestCellPx = 8;
/** Interpolated attenuation may be off by this: an eighth of a thousandth of what reaches the detector. */
const tolerance = 1.25e-4;
/** Where a weave is sampled along a stretch, as shares of its length. */
const weaveAt = [0.14, 0.38, 0.62, 0.86];

interface Piece {
  test: RayTest;
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** What a ray meets: millimetres inside, where their middle is along the ray, and which pieces it went through. */
interface Met {
  mm: number;
  middle: number;
  pieces: number;
}

/** Adds a layer's attenuation to a picture-sized map, row by row. Cost goes with the area the layer covers. */
export function addLayer(map: Float32Array, view: XrayView, layer: Layer): void {
  const parts = layer.parts.map((part) => pieceOf(view, part));
  const minus = (layer.minus ?? []).map((part) => pieceOf(view, part));
  const cellPx = cellFor(view, [...layer.parts, ...(layer.minus ?? [])]);
  for (let top = 0; top < view.height; top += tilePx) {
    for (let left = 0; left < view.width; left += tilePx) {
      const here = parts.filter((piece) => touches(piece, left, top));
      if (here.length === 0) continue;
      const gone = minus.filter((piece) => touches(piece, left, top));
      new Tile(map, view, layer, here, gone, left, top, cellPx).fill();
    }
  }
}

function touches(piece: Piece, left: number, top: number): boolean {
  return piece.right > left && piece.left < left + tilePx && piece.bottom > top && piece.top < top + tilePx;
}

/** The part's ray test and the rectangle of the picture outside which it can't be met. */
function pieceOf(view: XrayView, part: Part): Piece {
  const { center, radius } = enclosing(part);
  let [left, right, top, bottom] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let corner = 0; corner < 8; corner++) {
    const sign = (bit: number) => (corner & bit ? radius : -radius);
    const { x, y } = projected(view, add(center, [sign(1), sign(2), sign(4)]));
    left = Math.min(left, x);
    right = Math.max(right, x);
    top = Math.min(top, y);
    bottom = Math.max(bottom, y);
  }
  return {
    test: raysFrom(view.source, part),
    left: left - 1,
    right: right + 1,
    top: top - 1,
    bottom: bottom + 1
  };
}

/** Small enough that nothing of the layer can slip between a cell's corners and its middle. */
function cellFor(view: XrayView, parts: Part[]): number {
  let cell = coarsestCellPx;
  for (const part of parts) {
    const px = (finest(part) * magnificationAt(view, enclosing(part).center)) / view.pitchMm;
    while (cell > 1 && px < 2.5 * cell) cell /= 2;
  }
  return cell;
}

class Tile {
  private readonly right: number;
  private readonly bottom: number;
  private readonly known = new Map<number, Met>();
  private readonly stretch: Stretch = { from: 0, to: 0 };
  private readonly from: number[] = [];
  private readonly to: number[] = [];
  private readonly base: Vec3;
  private readonly acrossStep: Vec3;
  private readonly downStep: Vec3;

  constructor(
    private readonly map: Float32Array,
    private readonly view: XrayView,
    private readonly layer: Layer,
    private readonly parts: Piece[],
    private readonly minus: Piece[],
    private readonly left: number,
    private readonly top: number,
    private readonly cellPx: number
  ) {
    this.right = Math.min(view.width, left + tilePx);
    this.bottom = Math.min(view.height, top + tilePx);
    this.base = add(view.corner, times(view.source, -1));
    this.acrossStep = times(view.across, view.pitchMm);
    this.downStep = times(view.down, view.pitchMm);
  }

  fill(): void {
    const { cellPx } = this;
    for (let y = this.top; y < this.bottom; y += cellPx)
      for (let x = this.left; x < this.right; x += cellPx) this.cell(x, y, cellPx);
  }

  /** Pixels x to x+size-1 and y to y+size-1. */
  private cell(x: number, y: number, size: number): void {
    if (size === 1) {
      this.pixel(x, y);
      return;
    }
    const a = this.at(x, y);
    const b = this.at(x + size, y);
    const c = this.at(x, y + size);
    const d = this.at(x + size, y + size);
    const half = size / 2;
    const m = this.at(x + half, y + half);
    const same =
      a.pieces === b.pieces && a.pieces === c.pieces && a.pieces === d.pieces && a.pieces === m.pieces;
    const bend = Math.abs(m.mm - (a.mm + b.mm + c.mm + d.mm) / 4);
    if (!same || bend * Math.abs(this.layer.perMm) > tolerance) {
      this.cell(x, y, half);
      this.cell(x + half, y, half);
      this.cell(x, y + half, half);
      this.cell(x + half, y + half, half);
      return;
    }
    if (a.pieces === 0) return;
    const xEnd = Math.min(this.right, x + size);
    const yEnd = Math.min(this.bottom, y + size);
    for (let py = y; py < yEnd; py++) {
      const v = (py - y) / size;
      for (let px = x; px < xEnd; px++) {
        const u = (px - x) / size;
        const mm = (a.mm * (1 - u) + b.mm * u) * (1 - v) + (c.mm * (1 - u) + d.mm * u) * v;
        const middle =
          (a.middle * (1 - u) + b.middle * u) * (1 - v) + (c.middle * (1 - u) + d.middle * u) * v;
        this.put(px, py, mm, middle);
      }
    }
  }

  private pixel(x: number, y: number): void {
    if (x >= this.right || y >= this.bottom) return;
    if (!this.layer.sharp) {
      const met = this.at(x, y);
      if (met.mm > 0) this.put(x, y, met.mm, met.middle);
      return;
    }
    let mm = 0;
    let middle = 0;
    for (let i = 0; i < 9; i++) {
      const met = this.meet(x + ((i % 3) - 1) / 3, y + (Math.floor(i / 3) - 1) / 3);
      mm += met.mm / 9;
      middle += met.middle / 9;
    }
    if (mm > 0) this.put(x, y, mm, middle);
  }

  private put(x: number, y: number, mm: number, middle: number): void {
    const { weave, perMm } = this.layer;
    const factor = weave ? this.woven(weave, x, y, mm, middle) : 1;
    this.map[y * this.view.width + x] += mm * perMm * factor;
  }

  private woven(weave: (p: Vec3) => number, x: number, y: number, mm: number, middle: number): number {
    const { source } = this.view;
    const [dx, dy, dz] = this.direction(x, y);
    const length = Math.hypot(dx, dy, dz);
    let sum = 0;
    for (const share of weaveAt) {
      const t = middle + ((share - 0.5) * mm) / length;
      sum += weave([source[0] + t * dx, source[1] + t * dy, source[2] + t * dz]);
    }
    return sum / weaveAt.length;
  }

  /** From the source to the middle of a pixel. */
  private direction(x: number, y: number): Vec3 {
    const { base, acrossStep, downStep } = this;
    const [px, py] = [x + 0.5, y + 0.5];
    return [
      base[0] + acrossStep[0] * px + downStep[0] * py,
      base[1] + acrossStep[1] * px + downStep[1] * py,
      base[2] + acrossStep[2] * px + downStep[2] * py
    ];
  }

  private at(x: number, y: number): Met {
    const key = (y - this.top) * (tilePx + 1) + (x - this.left);
    let met = this.known.get(key);
    if (!met) {
      met = this.meet(x, y);
      this.known.set(key, met);
    }
    return met;
  }

  private meet(x: number, y: number): Met {
    const { stretch, from, to } = this;
    const [dx, dy, dz] = this.direction(x, y);
    let count = 0;
    let pieces = 0;
    for (let i = 0; i < this.parts.length; i++) {
      if (!this.parts[i].test(dx, dy, dz, stretch)) continue;
      pieces = (pieces * 31 + i + 1) | 0;
      let at = count++;
      while (at > 0 && from[at - 1] > stretch.from) {
        from[at] = from[at - 1];
        to[at] = to[at - 1];
        at--;
      }
      from[at] = stretch.from;
      to[at] = stretch.to;
    }
    if (count === 0) return { mm: 0, middle: 0, pieces: 0 };
    let inside = 0;
    let moment = 0;
    for (let i = 0; i < count;) {
      const start = from[i];
      let end = to[i];
      let next = i + 1;
      while (next < count && from[next] <= end) end = Math.max(end, to[next++]);
      const length = end - start;
      inside += length;
      moment += length * (start + end);
      i = next;
    }
    if (this.minus.length > 0) {
      const kept = this.without(dx, dy, dz, count);
      inside = kept.inside;
      moment = kept.moment;
      pieces = (pieces * 31 + kept.pieces) | 0;
    }
    const length = Math.sqrt(dx * dx + dy * dy + dz * dz);
    return { mm: inside * length, middle: inside > 0 ? moment / inside / 2 : 0, pieces: pieces || 1 };
  }

  /** The union's stretches less those of the parts that are taken away. */
  private without(dx: number, dy: number, dz: number, count: number) {
    const { stretch, from, to } = this;
    let left: [number, number][] = [];
    for (let i = 0; i < count;) {
      const start = from[i];
      let end = to[i];
      let next = i + 1;
      while (next < count && from[next] <= end) end = Math.max(end, to[next++]);
      left.push([start, end]);
      i = next;
    }
    let pieces = 0;
    for (let i = 0; i < this.minus.length; i++) {
      if (!this.minus[i].test(dx, dy, dz, stretch)) continue;
      pieces = (pieces * 31 + i + 7) | 0;
      const [a, b] = [stretch.from, stretch.to];
      left = left.flatMap(([start, end]): [number, number][] => {
        if (b <= start || a >= end) return [[start, end]];
        const rest: [number, number][] = [];
        if (a > start) rest.push([start, a]);
        if (b < end) rest.push([b, end]);
        return rest;
      });
    }
    let inside = 0;
    let moment = 0;
    for (const [start, end] of left) {
      inside += end - start;
      moment += (end - start) * (start + end);
    }
    return { inside, moment, pieces };
  }
}
