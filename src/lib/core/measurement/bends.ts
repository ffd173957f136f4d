import type { Point } from '../raster/orientation';
import { distanceToSegment } from './geometry';

/**
 * Which points of a way have to stay so that it bends nowhere by more than a tolerance (Douglas and Peucker, 1973): their
 * places in the list, the first and the last among them.
 */
export function bends(way: readonly Point[], tolerance: number): number[] {
  const kept = new Set([0, way.length - 1]);
  const spans: [number, number][] = [[0, way.length - 1]];
  while (spans.length > 0) {
    const [from, to] = spans.pop()!;
    let [worst, at] = [tolerance, -1];
    for (let i = from + 1; i < to; i++) {
      const off = distanceToSegment(way[i], way[from], way[to]);
      if (off > worst) [worst, at] = [off, i];
    }
    if (at < 0) continue;
    kept.add(at);
    spans.push([from, at], [at, to]);
  }
  return [...kept].sort((a, b) => a - b);
}
