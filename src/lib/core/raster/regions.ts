/** A connected region of a mask, with its moments about the picture's origin: sample indices, not image points. */
export interface MaskRegion {
  pixels: number;
  meanX: number;
  meanY: number;
  /** Second moments about the mean, a pixel's own twelfth included. */
  varianceX: number;
  varianceY: number;
  covariance: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Pixels of a region added up. */
interface Sums {
  n: number;
  x: number;
  y: number;
  xx: number;
  yy: number;
  xy: number;
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/**
 * Regions of pixels that touch along their sides, in the order in which rows meet them: runs of a row join those of the
 * row before that they touch (Rosenfeld and Pfaltz, 1966).
 */
export function regionsOf(inside: (at: number) => boolean, width: number, height: number): MaskRegion[] {
  /** Of every label the one it was joined to, itself where it stands alone; those joined to are always the earlier. */
  const joinedTo: number[] = [];
  const sums: Sums[] = [];
  const standing = (label: number): number => {
    while (joinedTo[label] !== label) label = joinedTo[label] = joinedTo[joinedTo[label]];
    return label;
  };
  // Runs of this row and of the one before: where each begins, where it has ended, its label.
  let above: number[] = [];
  for (let y = 0; y < height; y++) {
    const row: number[] = [];
    let before = 0;
    const start = y * width;
    for (let x = 0; x < width; x++) {
      if (!inside(start + x)) continue;
      const from = x;
      while (x < width && inside(start + x)) x++;
      while (before < above.length && above[before + 1] <= from) before += 3;
      let label = -1;
      for (let k = before; k < above.length && above[k] < x; k += 3) {
        const touched = standing(above[k + 2]);
        if (label < 0) label = touched;
        else if (touched !== label) {
          const [kept, gone] = touched < label ? [touched, label] : [label, touched];
          joinedTo[gone] = kept;
          added(sums[kept], sums[gone]);
          label = kept;
        }
      }
      const run = sumsOf(from, x, y);
      if (label < 0) {
        label = sums.length;
        joinedTo.push(label);
        sums.push(run);
      } else added(sums[label], run);
      row.push(from, x, label);
    }
    above = row;
  }
  return sums.filter((_, label) => joinedTo[label] === label).map(momentsOf);
}

/** A run of pixels from one column up to, not with, another. */
function sumsOf(from: number, to: number, y: number): Sums {
  const n = to - from;
  const x = (n * (from + to - 1)) / 2;
  // 0 + 1 + 4 + 9 and so on up to, not with, a number's own square.
  const squares = (below: number) => ((below - 1) * below * (2 * below - 1)) / 6;
  return {
    n,
    x,
    y: n * y,
    xx: squares(to) - squares(from),
    yy: n * y * y,
    xy: x * y,
    left: from,
    top: y,
    right: to - 1,
    bottom: y
  };
}

function added(to: Sums, more: Sums): void {
  to.n += more.n;
  to.x += more.x;
  to.y += more.y;
  to.xx += more.xx;
  to.yy += more.yy;
  to.xy += more.xy;
  to.left = Math.min(to.left, more.left);
  to.top = Math.min(to.top, more.top);
  to.right = Math.max(to.right, more.right);
  to.bottom = Math.max(to.bottom, more.bottom);
}

function momentsOf({ n, x, y, xx, yy, xy, left, top, right, bottom }: Sums): MaskRegion {
  const [meanX, meanY] = [x / n, y / n];
  return {
    pixels: n,
    meanX,
    meanY,
    varianceX: xx / n - meanX * meanX + 1 / 12,
    varianceY: yy / n - meanY * meanY + 1 / 12,
    covariance: xy / n - meanX * meanY,
    left,
    top,
    right,
    bottom
  };
}
