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

/** Regions of pixels that touch along their sides, in the order in which rows meet them. */
export function regionsOf(inside: (at: number) => boolean, width: number, height: number): MaskRegion[] {
  const seen = new Uint8Array(width * height);
  const stack: number[] = [];
  const out: MaskRegion[] = [];
  const visit = (at: number) => {
    if (seen[at] === 1 || !inside(at)) return;
    seen[at] = 1;
    stack.push(at);
  };
  for (let start = 0; start < seen.length; start++) {
    if (seen[start] === 1 || !inside(start)) continue;
    visit(start);
    let [n, sx, sy, sxx, syy, sxy] = [0, 0, 0, 0, 0, 0];
    let [left, top, right, bottom] = [width, height, -1, -1];
    while (stack.length > 0) {
      const at = stack.pop()!;
      const x = at % width;
      const y = (at - x) / width;
      n++;
      sx += x;
      sy += y;
      sxx += x * x;
      syy += y * y;
      sxy += x * y;
      left = Math.min(left, x);
      right = Math.max(right, x);
      top = Math.min(top, y);
      bottom = Math.max(bottom, y);
      if (x > 0) visit(at - 1);
      if (x < width - 1) visit(at + 1);
      if (y > 0) visit(at - width);
      if (y < height - 1) visit(at + width);
    }
    const [meanX, meanY] = [sx / n, sy / n];
    out.push({
      pixels: n,
      meanX,
      meanY,
      varianceX: sxx / n - meanX * meanX + 1 / 12,
      varianceY: syy / n - meanY * meanY + 1 / 12,
      covariance: sxy / n - meanX * meanY,
      left,
      top,
      right,
      bottom
    });
  }
  return out;
}
