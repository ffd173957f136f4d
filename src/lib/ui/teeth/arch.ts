import { type Tooth, lowerArch, toothKind, upperArch } from '$core/anatomy/teeth';

/** Where a tooth is drawn on the map, seen from the front with the mouth open, in units of the drawing. */
export interface DrawnTooth {
  tooth: Tooth;
  x: number;
  y: number;
  /** Degrees; the crown's outer side points away from the mouth. */
  turnDeg: number;
  width: number;
  depth: number;
  labelX: number;
  labelY: number;
}

export const mapWidth = 400;
export const mapHeight = 446;
const middleX = mapWidth / 2;
const arch = { radiusX: 142, radiusY: 168, gap: 34, sweepDeg: 86 };
const sizes = { incisor: [20, 15], canine: [20, 19], premolar: [22, 23], molar: [29, 29] } as const;
const labelOut = 27;

/** Both arches as two half ovals that open towards each other's back teeth. */
export function drawnTeeth(): DrawnTooth[] {
  return [...half(upperArch, true), ...half(lowerArch, false)];
}

function half(teeth: readonly Tooth[], upper: boolean): DrawnTooth[] {
  const widths = teeth.map((tooth) => sizes[toothKind(tooth)][0]);
  const total = widths.reduce((a, b) => a + b, 0);
  let before = 0;
  return teeth.map((tooth, i) => {
    const share = (before + widths[i] / 2) / total;
    before += widths[i];
    const angle = ((share - 0.5) * 2 * arch.sweepDeg * Math.PI) / 180;
    const sign = upper ? -1 : 1;
    const centerY = mapHeight / 2 + sign * arch.gap;
    const x = middleX + arch.radiusX * Math.sin(angle);
    const y = centerY + sign * arch.radiusY * Math.cos(angle) * 0.92;
    const normal = Math.atan2((sign * Math.cos(angle)) / arch.radiusY, Math.sin(angle) / arch.radiusX);
    const [width, depth] = sizes[toothKind(tooth)];
    return {
      tooth,
      x,
      y,
      turnDeg: (normal * 180) / Math.PI + 90,
      width,
      depth,
      labelX: x + Math.cos(normal) * labelOut,
      labelY: y + Math.sin(normal) * labelOut
    };
  });
}

/** The crown from above: round for front teeth, with more corners further back. */
export function crownPath(width: number, depth: number): string {
  const w = width / 2;
  const d = depth / 2;
  const k = 0.62;
  return `M0 ${-d} C${w * k} ${-d} ${w} ${-d * k} ${w} 0 S${w * k} ${d} 0 ${d} S${-w} ${d * k} ${-w} 0 S${-w * k} ${-d} 0 ${-d}Z`;
}
