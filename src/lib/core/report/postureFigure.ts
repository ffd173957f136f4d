import type { GuideResult } from '../measurement/guides/evaluate';
import type { Point } from '../raster/orientation';

/** A part of the body as it stands: its middle, and the ends of the line through its markers. In mm, y down. */
export interface FigurePart {
  key: 'head' | 'chest' | 'pelvis';
  middle: Point;
  from: Point;
  to: Point;
}

/** How somebody stands, drawn from readings: the middle of the pelvis, or the hip, is at 0, 0. */
export interface PostureFigure {
  /** Seen from the front: the left of the body is on the right. Null where a reading is not there. */
  front: FigurePart[] | null;
  /** Seen from the right side, whichever side was photographed: forward is to the right. */
  side: FigurePart[] | null;
}

/** Where parts are above the pelvis and how wide, in mm, of somebody of middle size: only turns and shifts are measured. */
const parts = [
  { key: 'pelvis', upMm: 0, halfMm: 130 },
  { key: 'chest', upMm: 440, halfMm: 190 },
  { key: 'head', upMm: 680, halfMm: 85 }
] as const;

/** @returns null where neither view has all that it is drawn from, or lengths are in pixels */
export function postureFigure(results: readonly GuideResult[]): PostureFigure | null {
  const valueOf = (key: string, unit: string): number | null => {
    const result = results.find(({ formula }) => formula.key === key);
    return result?.outcome === 'value' && result.value.unit === unit ? result.value.value : null;
  };
  const front = drawn(
    [0, valueOf('chest left', 'mm'), valueOf('head left', 'mm')],
    (['pelvis', 'chest', 'head'] as const).map((part) => valueOf(`${part} roll`, 'deg'))
  );
  const sides = (['right', 'left'] as const).map((side) =>
    drawn(
      [0, valueOf(`chest forward ${side}`, 'mm'), valueOf(`head forward ${side}`, 'mm')],
      (['pelvis', 'chest', 'head'] as const).map((part) => valueOf(`${part} pitch ${side}`, 'deg'))
    )
  );
  const side = sides[0] ?? sides[1];
  return front || side ? { front, side } : null;
}

/** @param shifts of each part against the one below, to the right as drawn @param risesDeg of the right end as drawn */
function drawn(
  shifts: readonly (number | null)[],
  risesDeg: readonly (number | null)[]
): FigurePart[] | null {
  let x = 0;
  const out: FigurePart[] = [];
  for (const [i, { key, upMm, halfMm }] of parts.entries()) {
    const [shift, rise] = [shifts[i], risesDeg[i]];
    if (shift === null || rise === null) return null;
    x += shift;
    const angle = (rise * Math.PI) / 180;
    const [dx, dy] = [halfMm * Math.cos(angle), -halfMm * Math.sin(angle)];
    const middle = { x, y: -upMm };
    out.push({
      key,
      middle,
      from: { x: x - dx, y: middle.y - dy },
      to: { x: x + dx, y: middle.y + dy }
    });
  }
  return out;
}
