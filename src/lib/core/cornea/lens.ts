import { uniformWithin } from '../calibration/budget';
import { asphericity, keratometry } from './maps';
import type { MeasuredCornea } from './measured';
import type { Heights } from './surface';

/** Sagittal height at a chord. */
export interface Sag {
  chordMm: number;
  axisDeg: number;
  sagMm: number;
  /** Standard uncertainty. */
  uncertaintyMm: number;
  /** How far the chord's ends lie beyond what was seen, mm; 0 where all of it was. */
  beyondMm: number;
  trust: 'measured' | 'estimate' | 'rough estimate';
  description: string;
}

const walkMm = 0.05;
/** A gap in the data this wide is bridged; a wider one ends them. */
const bridgedMm = 0.6;
/** The slope's own bend is read over the last stretch of the data. */
const stretchMm = 1;
const roughBeyondMm = 1.5;

/**
 * Sagittal height at a chord along a meridian, mean of its two ends over the vertex. Beyond the data the cornea goes on
 * somewhere between straight along its last slope and round with its last bend: the middle of both is given, and as
 * uncertainty that the truth may lie anywhere between them.
 * @param axisDeg counter-clockwise from the picture's right
 * @throws RangeError for a chord that is not above 0, or where nothing was seen along the meridian
 */
export function sagOf(cornea: MeasuredCornea, chordMm: number, axisDeg: number): Sag {
  if (!(chordMm > 0 && chordMm <= 20))
    throw new RangeError(`a chord must lie between 0 and 20 mm, got ${chordMm}`);
  const sag = sagWhereSeen(cornea, chordMm, axisDeg);
  if (!sag) throw new RangeError(`too little was seen at ${axisDeg} degrees to tell a height there`);
  return sag;
}

function sagWhereSeen(cornea: MeasuredCornea, chordMm: number, axisDeg: number): Sag | null {
  const a = (-axisDeg * Math.PI) / 180;
  const ends = [a, a + Math.PI].map((angle) => ({ angle, seenMm: seenAlong(cornea, angle, chordMm / 2) }));
  if (ends.some(({ seenMm }) => seenMm < stretchMm + 0.5)) return null;
  const height = (heights: Heights, how: Going) =>
    ends.reduce(
      (sum, { angle, seenMm }) => sum + endHeight(heights, angle, chordMm / 2, seenMm, how) / 2,
      0
    ) - heights.at(0, 0).z;
  const [straight, round] = [height(cornea.heights, 'straight'), height(cornea.heights, 'round')];
  const beyondMm = Math.max(0, ...ends.map(({ seenMm }) => chordMm / 2 - seenMm));
  const measured = cornea.uncertaintyOf(
    (heights) => (height(heights, 'straight') + height(heights, 'round')) / 2
  );
  const uncertaintyMm = Math.hypot(measured, uniformWithin(Math.abs(round - straight) / 2));
  const trust = beyondMm === 0 ? 'measured' : beyondMm <= roughBeyondMm ? 'estimate' : 'rough estimate';
  return {
    chordMm,
    axisDeg,
    sagMm: (straight + round) / 2,
    uncertaintyMm,
    beyondMm,
    trust,
    description:
      beyondMm === 0
        ? 'Measured out to this chord.'
        : `Goes ${beyondMm.toFixed(1)} mm beyond what was seen: ${trust === 'estimate' ? 'an estimate' : 'a rough estimate'}, good to ${(2000 * uncertaintyMm).toFixed(0)} micrometres either way.`
  };
}

/** How far from the vertex rings were seen, in one direction. */
function seenAlong({ hasData }: MeasuredCornea, angle: number, mostMm: number): number {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  let seen = 0;
  for (let r = 0; r <= mostMm + 1e-9; r += walkMm) {
    if (hasData(r * c, r * s)) seen = r;
    else if (r - seen > bridgedMm) return seen;
  }
  return mostMm - seen < walkMm ? mostMm : seen;
}

type Going = 'straight' | 'round';

function endHeight(heights: Heights, angle: number, r: number, seenMm: number, how: Going): number {
  const [c, s] = [Math.cos(angle), Math.sin(angle)];
  if (r <= seenMm) return heights.at(r * c, r * s).z;
  const slopeAt = (at: number) => {
    const { zx, zy } = heights.at(at * c, at * s);
    return Math.atan(zx * c + zy * s);
  };
  const { z } = heights.at(seenMm * c, seenMm * s);
  const lean = slopeAt(seenMm);
  const beyond = r - seenMm;
  if (how === 'straight') return z + beyond * Math.tan(lean);
  // A circle through the end of the data: sin of its lean grows evenly with the distance.
  const bend = (Math.sin(lean) - Math.sin(slopeAt(seenMm - stretchMm))) / stretchMm;
  if (Math.abs(bend) < 1e-6) return z + beyond * Math.tan(lean);
  const end = Math.min(0.98, Math.sin(lean) + beyond * bend);
  return z + (Math.cos(lean) - Math.sqrt(1 - end * end)) / bend;
}

/** What a fitter asks for. Uncertainties are standard ones. */
export interface LensValues {
  flatMm: number;
  steepMm: number;
  radiusUncertaintyMm: number;
  /** Direction of the flat meridian, degrees counter-clockwise from the picture's right. */
  flatAxisDeg: number;
  /** Asphericity over 8 mm: 0 a sphere; shape factor p = 1 + Q, eccentricity squared = -Q. */
  q: number;
  qUncertainty: number;
  /** At 10, 12, 14 and 15 mm, along the flat and the steep meridian; chords where nothing can be told are left out. */
  sags: Sag[];
}

export const lensChordsMm = [10, 12, 14, 15] as const;

export function lensValues(cornea: MeasuredCornea): LensValues {
  const { flatMm, steepMm, steepAxisDeg } = keratometry(cornea.heights);
  const flatAxisDeg = (steepAxisDeg + 90) % 180;
  return {
    flatMm,
    steepMm,
    radiusUncertaintyMm: Math.max(
      cornea.uncertaintyOf((heights) => keratometry(heights).flatMm),
      cornea.uncertaintyOf((heights) => keratometry(heights).steepMm)
    ),
    flatAxisDeg,
    q: asphericity(cornea.heights),
    qUncertainty: cornea.uncertaintyOf((heights) => asphericity(heights)),
    sags: lensChordsMm.flatMap((chordMm) =>
      [flatAxisDeg, steepAxisDeg].flatMap((axisDeg) => sagWhereSeen(cornea, chordMm, axisDeg) ?? [])
    )
  };
}
