import type { CostMap } from './cost';

const [straight, diagonal] = [1, Math.SQRT2];

/** Cheapest ways from one pixel to every pixel of a map. `from` is where each was reached from, -1 where never. */
export interface WayTree {
  start: number;
  from: Int32Array;
}

/**
 * Cheapest ways over a cost map to all pixels, or until `goal` is reached (Dijkstra, 1959), steps to all eight
 * neighbours, each costing its length times the mean of both pixels. A binary heap of pixel numbers, costs in a flat
 * array; O(n log n).
 * @param allowed pixels that may be stepped on; all when left out
 */
export function cheapestWays(
  map: CostMap,
  start: number,
  goal = -1,
  allowed?: (at: number) => boolean
): WayTree {
  const { width, height, cost } = map;
  const reached = new Float32Array(cost.length).fill(Infinity);
  const from = new Int32Array(cost.length).fill(-1);
  const done = new Uint8Array(cost.length);
  const heap = new Heap();
  reached[start] = 0;
  heap.push(start, 0);
  while (heap.size > 0) {
    const at = heap.pop();
    if (done[at]) continue;
    done[at] = 1;
    if (at === goal) break;
    const x = at % width;
    const y = (at - x) / width;
    for (let dy = -1; dy <= 1; dy++) {
      if (y + dy < 0 || y + dy >= height) continue;
      for (let dx = -1; dx <= 1; dx++) {
        if ((dx === 0 && dy === 0) || x + dx < 0 || x + dx >= width) continue;
        const to = at + dy * width + dx;
        if (done[to] || (allowed && !allowed(to))) continue;
        const step = dx !== 0 && dy !== 0 ? diagonal : straight;
        const total = reached[at] + (step * (cost[at] + cost[to])) / 2;
        if (total >= reached[to]) continue;
        reached[to] = total;
        from[to] = at;
        heap.push(to, total);
      }
    }
  }
  return { start, from };
}

/** The pixels of the way to one, from the start on; null when it was not reached. */
export function wayTo({ start, from }: WayTree, goal: number): number[] | null {
  if (goal !== start && from[goal] < 0) return null;
  const out = [goal];
  for (let at = goal; at !== start;) {
    at = from[at];
    out.push(at);
  }
  return out.reverse();
}

/** The least first. Entries are not moved when a pixel becomes cheaper: it is pushed again and the old one skipped. */
class Heap {
  private items = new Int32Array(1024);
  private keys = new Float32Array(1024);
  size = 0;

  push(item: number, key: number): void {
    if (this.size === this.items.length) this.grow();
    let at = this.size++;
    while (at > 0) {
      const parent = (at - 1) >> 1;
      if (this.keys[parent] <= key) break;
      this.items[at] = this.items[parent];
      this.keys[at] = this.keys[parent];
      at = parent;
    }
    this.items[at] = item;
    this.keys[at] = key;
  }

  pop(): number {
    const top = this.items[0];
    const item = this.items[--this.size];
    const key = this.keys[this.size];
    let at = 0;
    for (;;) {
      let child = 2 * at + 1;
      if (child >= this.size) break;
      if (child + 1 < this.size && this.keys[child + 1] < this.keys[child]) child++;
      if (this.keys[child] >= key) break;
      this.items[at] = this.items[child];
      this.keys[at] = this.keys[child];
      at = child;
    }
    this.items[at] = item;
    this.keys[at] = key;
    return top;
  }

  private grow(): void {
    const items = new Int32Array(2 * this.items.length);
    const keys = new Float32Array(2 * this.keys.length);
    items.set(this.items);
    keys.set(this.keys);
    this.items = items;
    this.keys = keys;
  }
}
