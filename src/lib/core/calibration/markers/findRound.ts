import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { type NoiseCurve, noiseCurve } from '../../raster/noise';
import { arcSpots } from './arcs';
import { type Spot, spots } from './candidates';
import type { Relationship } from './edgeSigns';
import { followedOutline, levelsOf, settledOval } from './followed';
import { type Outline, ovalShare } from './outline';
import { clamped, rising } from './rising';
import {
  type Found,
  type Hint,
  anotherLikeIt,
  clearlyBetter,
  judged,
  leastConfidence,
  nearHint
} from './judged';
import { roundEdge } from './roundEdge';
import { surroundingsOf } from './surroundings';

/** Why a marker that was found should be looked at by a person before it is relied on. */
export type MarkerDoubt =
  | 'part of it is hidden'
  | 'cut off by the border'
  | 'another like it'
  | 'its outline does not close'
  | 'not even inside'
  | 'stands in a ring'
  | 'may be a hole'
  | 'not round'
  | 'its edge fits no marker'
  | 'hardly stands out';

export interface RoundMarker {
  kind: 'ball' | 'disc';
  center: Point;
  /** What its size is compared with: a ball's shorter diameter, a disc's longer. */
  diameterPx: number;
  /** Standard uncertainty of the diameter. */
  uncertaintyPx: number;
  shortestPx: number;
  longestPx: number;
  /** Longest over shortest diameter. */
  elongation: number;
  /** Root mean square distance of the edge from the outline. */
  residualPx: number;
  /** Share of the outline that was seen. */
  seen: number;
  bright: boolean;
  /** 0 to 1: how sure it is that this is a marker. */
  confidence: number;
  /** Empty for one that may be taken as it is. */
  doubts: MarkerDoubt[];
}

export interface RoundSearch {
  kind: 'ball' | 'disc';
  /** Its size, and how much a millimetre of its metal takes away (natural logarithm), where the setting tells. */
  diameterMm?: number;
  perMm?: number;
  /** How large it can be in the picture, where the detector's spacing and the marker's size tell. */
  diameterPx?: { least: number; most: number };
  bright?: boolean;
  /** What the file says of how its values go with the rays. */
  relationship?: Relationship;
  hint?: Hint;
}

const leastDiameterPx = 6;
const mostDiameterPx = 400;
/** So many of the likeliest are measured; the rest are offered by their outline. */
const mostFitted = 3;
/** What is so much less likely than the likeliest is not measured. */
const farLess = 0.3;

/**
 * Balls and discs of a picture, found without a hint: round spots at every size, each then followed along its edge,
 * judged by what lies in it and around it, and measured. The picture's greys may go with the rays in any way, and metal
 * may be bright or dark. The size of the picture's largest side may be anything; cost goes with its pixels.
 * @param patch the whole picture
 */
export function findRound(patch: Patch, search: RoundSearch): Found<RoundMarker> {
  const least = Math.max(leastDiameterPx, search.diameterPx?.least ?? 0);
  const most = Math.min(mostDiameterPx, search.diameterPx?.most ?? Infinity);
  if (!(most >= least)) return { outcome: 'none', others: [] };
  const levels = levelsOf(patch, most);
  const range = rangeOf(patch);
  if (!(range > 0)) return { outcome: 'none', others: [] };
  const seen: Looked[] = [];
  for (const [depth, level] of levels.entries()) {
    const factor = 2 ** depth;
    // The full picture is searched only for the smallest; the first half size tells of six pixels on.
    if (depth === 0 && patch.width * patch.height > smallPicture) continue;
    if (factor * 10 < least || factor * 4 > most * 1.3) continue;
    // In the full picture there are too many edges to ask, and what is so small is not told by an arc.
    const likely = [...spots(level, factor), ...(depth > 0 ? arcSpots(level, factor) : [])];
    const wanted = likely.filter(
      (spot) =>
        (search.bright === undefined || spot.contrast > 0 === search.bright) &&
        nearHint(spot.center, search.hint)
    );
    for (const spot of wanted) {
      if (seen.some((other) => same(other, spot))) continue;
      const looked = lookedAt(patch, levels, spot, range);
      if (!looked) continue;
      const diameter = 2 * looked.outline.radiusPx;
      // The steepest place may lie well inside the true rim, and of a small one most of it.
      if (diameter < least - 3.5 || diameter > most + 1.5) continue;
      const twin = seen.findIndex((other) => overlap(other, looked));
      if (twin < 0) seen.push(looked);
      else if (standing(looked) > standing(seen[twin])) seen[twin] = looked;
    }
  }
  seen.sort((a, b) => standing(b) - standing(a));
  const noise = seen.length > 0 ? noiseCurve(patch) : null;
  const fitted: Looked[] = [];
  const markers: RoundMarker[] = [];
  for (const looked of seen.slice(0, mostFitted)) {
    if (standing(looked) < standing(seen[0]) - farLess) break;
    if (markers.length > 0 && plainlyLess(looked, markers[0])) continue;
    const marker = measured(patch, looked, search, noise);
    if (seen.some((other) => twins(looked, other))) marker.doubts.push(anotherLikeIt);
    fitted.push(looked);
    markers.push(marker);
  }
  return judged(
    withoutLesser(markers, fitted).filter(
      ({ diameterPx }) => diameterPx >= least - 0.5 && diameterPx <= most + 0.5
    ),
    alike
  );
}

/** Of quite another size, so that nobody takes it for what was measured, and less sure than that without a doubt. */
function plainlyLess(looked: Looked, { diameterPx, confidence, doubts }: RoundMarker): boolean {
  const sizes = (2 * looked.outline.radiusPx) / diameterPx;
  return (
    doubts.length === 0 &&
    standing(looked) < confidence - clearlyBetter &&
    Math.min(sizes, 1 / sizes) < otherSize
  );
}
const otherSize = 0.65;

/** What is hidden in part counts for less beside something of which so much more is seen. */
const muchMoreSeen = 0.1;
const ofLesser = 0.6;

/**
 * Arcs of other things are round for a part of a turn too: where something is clearly a marker, what is seen in part only
 * and stands out far less, or of which far less is seen, is hardly another.
 */
function withoutLesser(markers: readonly RoundMarker[], looked: readonly Looked[]): RoundMarker[] {
  return markers.map((marker, i) => {
    if (marker.seen > wholeShare) return marker;
    const lesser = markers.some(
      (other, k) =>
        other.confidence > leastConfidence &&
        (looked[i].contrastShare < fainter * looked[k].contrastShare ||
          marker.seen < other.seen - muchMoreSeen)
    );
    return lesser ? { ...marker, confidence: ofLesser * marker.confidence } : marker;
  });
}

const alike = (a: RoundMarker, b: RoundMarker) =>
  Math.min(a.diameterPx, b.diameterPx) > 0.8 * Math.max(a.diameterPx, b.diameterPx);

const smallPicture = 1_500_000;

/** With less of its outline seen, a part of it is hidden. */
const wholeShare = 0.8;

/** A spot that was followed along its edge. */
interface Looked {
  outline: Outline;
  bright: boolean;
  likeness: number;
  /** The step at the edge against the picture's range. */
  contrastShare: number;
  doubts: MarkerDoubt[];
}

const same = ({ outline, likeness, bright }: Looked, spot: Spot) =>
  likeness > 0.8 &&
  outline.share > 0.9 &&
  bright === spot.contrast > 0 &&
  Math.hypot(outline.center.x - spot.center.x, outline.center.y - spot.center.y) < 0.5 * outline.radiusPx &&
  spot.radiusPx < 2 * outline.radiusPx;

/** What is whole and clear comes before what is as likely but doubtful. */
const standing = ({ likeness, doubts }: Looked) => likeness * doubted ** doubts.length;
const doubted = 0.72;

const overlap = (a: Looked, b: Looked) =>
  Math.hypot(a.outline.center.x - b.outline.center.x, a.outline.center.y - b.outline.center.y) <
  0.6 * Math.max(a.outline.radiusPx, b.outline.radiusPx);

/** What stands out so much less is of other stuff: the head of a bone beside steel. */
const fainter = 0.4;

/** Two things apart that could be mistaken for one another. */
const twins = (a: Looked, b: Looked) =>
  a !== b &&
  a.bright === b.bright &&
  b.likeness > 0.6 * a.likeness &&
  b.contrastShare > fainter * a.contrastShare &&
  b.outline.share > wholeShare &&
  Math.min(a.outline.radiusPx, b.outline.radiusPx) > 0.85 * Math.max(a.outline.radiusPx, b.outline.radiusPx);

/** From the first to the ninety-ninth hundredth of the picture's values: what a step is large or small against. */
function rangeOf({ data }: Patch): number {
  const step = Math.max(1, Math.floor(data.length / 8_000));
  const sampled = new Float32Array(Math.ceil(data.length / step));
  for (let i = 0, k = 0; i < data.length; i += step) sampled[k++] = data[i];
  sampled.sort();
  return sampled[Math.floor((sampled.length - 1) * 0.99)] - sampled[Math.floor(sampled.length * 0.01)];
}

/** Follows the spot's edge and judges what it sees. */
function lookedAt(full: Patch, levels: Patch[], spot: Spot, range: number): Looked | null {
  const bright = spot.contrast > 0;
  const outline = followedOutline(levels, spot, leastContrast * range);
  if (!outline) return null;
  const { likeness, doubts } = judgedBy(full, outline, bright, range);
  return likeness < worthKeeping
    ? null
    : { outline, bright, likeness, doubts, contrastShare: Math.abs(outline.contrast) / range };
}

const worthKeeping = 0.15;
/** A step that is so small a share of the picture's range is no metal's. */
const leastContrast = 0.025;

/** Beyond a marker it is as dense again in less than half of the directions, beyond a plate's hole in most. */
const mostEnclosed = 0.55;
/** A stalk takes at least two, at most five of forty directions: bone that lies beside takes more. */
const leastStalk = 0.04;
const mostStalk = 0.14;

/** 0 to 1 without a fit, and what speaks against it. */
function judgedBy(full: Patch, outline: Outline, bright: boolean, range: number) {
  const { center, radiusPx, ovalPx, share, residualPx, contrast } = outline;
  const around = surroundingsOf(full, outline, bright);
  const elongation = (radiusPx + ovalPx) / Math.max(1e-6, radiusPx - ovalPx);
  const border = Math.min(center.x, center.y, full.width - center.x, full.height - center.y) < radiusPx + 1;
  const doubts: MarkerDoubt[] = [];
  const doubt = (when: boolean, what: MarkerDoubt) => {
    if (when) doubts.push(what);
  };
  doubt(border, 'cut off by the border');
  const stalked = share < 0.985 && around.stalk > leastStalk && around.stalk < mostStalk;
  doubt(!border && share >= wholeShare && (share < 0.93 || stalked), 'its outline does not close');
  doubt(!border && share < wholeShare, 'part of it is hidden');
  doubt(elongation > 1.3, 'not round');
  doubt(around.uneven > 0.22, 'not even inside');
  doubt(around.ringed > 0.45, 'stands in a ring');
  doubt(around.likeInside > 0.3 || around.enclosed > mostEnclosed, 'may be a hole');
  doubt(Math.abs(contrast) < 0.08 * range, 'hardly stands out');
  const likeness =
    rising(share, 0.3, 0.55) *
    clamped(1.3 - residualPx / (0.35 + 0.03 * radiusPx)) *
    rising(elongation, 1.9, 1.4) *
    (1 - 0.7 * rising(around.uneven, 0.15, 0.45)) *
    rising(around.standingOut * Math.sqrt(Math.max(1, radiusPx / 5)), 1.5, 4) *
    (1 - 0.8 * rising(around.ringed, 0.35, 0.7)) *
    (1 - 0.8 * rising(around.likeInside, 0.2, 0.55)) *
    (1 - 0.8 * rising(around.enclosed, 0.5, 0.8)) *
    (0.4 + 0.6 * rising(Math.abs(contrast) / range, 0.02, 0.12));
  return { likeness, doubts };
}

/** Edges whose greys differ by so much of the step from all that a marker's can be. */
const poorFit = 0.027;
const plainFit = 0.02;
const noFit = 0.065;
/** Fainter things have to be as much more like it, against the picture's range. */
const plainFitByContrast = 0.06;
/** A ball aside of the beam's middle is longer one way, a tilted disc narrower, by about this share: an arc alone does not tell. */
const obliqueShare = { ball: 0.012, disc: 0.03 };
/** Standard uncertainty of a radius that was seen but could not be measured. */
const unfittedPx = 0.6;

function measured(full: Patch, looked: Looked, search: RoundSearch, noise: NoiseCurve | null): RoundMarker {
  const { outline, bright, likeness } = looked;
  const doubts = [...looked.doubts];
  const { center, radiusPx, share, residualPx } = outline;
  const { diameterMm, perMm } = search;
  const edge = roundEdge(full, outline, search.kind, bright, {
    throughMiddle: diameterMm === undefined || perMm === undefined ? undefined : diameterMm * perMm,
    relationship: search.relationship,
    noise
  });
  const radius = edge ? edge.radiusPx : radiusPx;
  const oval = settledOval(outline, search.kind);
  const [shortestPx, longestPx] = [2 * (radius - oval), 2 * (radius + oval)];
  if (!edge || edge.unlike > poorFit) doubts.push('its edge fits no marker');
  // Of a thing that is seen in part only, the part must be an edge of metal beyond doubt: heads of bone are round too.
  const plainMetal =
    edge !== null && edge.unlike < Math.min(plainFit, plainFitByContrast * looked.contrastShare);
  // Where part of the outline is hidden, its middle and with it its size are told by an arc only.
  const arc = share < 0.93 ? residualPx + 0.6 * (0.93 - share) : 0;
  const oblique = share < ovalShare ? obliqueShare[search.kind] * 2 * radius : 0;
  return {
    kind: search.kind,
    center,
    diameterPx: search.kind === 'ball' ? shortestPx : longestPx,
    uncertaintyPx: Math.hypot(2 * (edge ? edge.uncertaintyPx : unfittedPx), arc, oblique),
    shortestPx,
    longestPx,
    elongation: longestPx / Math.max(1e-6, shortestPx),
    residualPx,
    seen: share,
    bright,
    confidence:
      likeness *
      (edge ? clamped(1.3 - edge.unlike / noFit) : 0.5) *
      (plainMetal || share > wholeShare ? 1 : 0.6),
    doubts
  };
}
