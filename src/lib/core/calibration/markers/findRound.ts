import type { Point } from '../../raster/orientation';
import type { Patch } from '../../raster/patch';
import { type Spot, spots } from './candidates';
import { edgeFit } from './edgeModel';
import { type Outline, outlineAt } from './outline';
import { halved } from './reduced';

export interface RoundMarker {
  kind: 'ball' | 'disc';
  center: Point;
  diameterPx: number;
  /** Standard uncertainty of the diameter. */
  uncertaintyPx: number;
  /** Longest over shortest diameter. */
  elongation: number;
  /** Root mean square distance of the edge from the outline. */
  residualPx: number;
  /** Share of the outline that was seen. */
  seen: number;
  bright: boolean;
  /** 0 to 1: how sure it is that this is the marker. */
  confidence: number;
}

export interface RoundSearch {
  kind: 'ball' | 'disc';
  /** Its size, and how much a millimetre of its metal takes away (natural logarithm), where the setting tells. */
  diameterMm?: number;
  perMm?: number;
  /** How large it can be in the picture, where the detector's spacing and the marker's size tell. */
  diameterPx?: { least: number; most: number };
  bright?: boolean;
  /** Where somebody pointed, and how far from there it may be. */
  hint?: { at: Point; withinPx: number };
}

export type MarkerFound<M> =
  | { outcome: 'found'; best: M; others: M[] }
  /** Two or more are alike: a person has to say which. */
  | { outcome: 'several'; others: M[] }
  | { outcome: 'none'; others: M[] };

const leastDiameterPx = 6;
const mostDiameterPx = 400;
/** A candidate below this is not offered as the marker. */
export const leastConfidence = 0.8;
/** The best must be this much surer than the next to be taken without asking. */
const clearlyBetter = 0.2;
const mostVerified = 40;

/**
 * Balls and discs of a picture, found without a hint: round spots at every size, each then followed along its edge,
 * fitted, and judged. The size of the picture's largest side may be anything; cost goes with its pixels.
 * @param patch the whole picture
 */
export function findRound(patch: Patch, search: RoundSearch): MarkerFound<RoundMarker> {
  const least = Math.max(leastDiameterPx, search.diameterPx?.least ?? 0);
  const most = Math.min(mostDiameterPx, search.diameterPx?.most ?? Infinity);
  if (!(most >= least)) return { outcome: 'none', others: [] };
  const levels = levelsOf(patch, most);
  const openBeam = darkest(patch);
  const found: RoundMarker[] = [];
  for (const [depth, level] of levels.entries()) {
    const factor = 2 ** depth;
    // The full picture is searched only for the smallest; the first half size tells of six pixels on.
    if (depth === 0 && patch.width * patch.height > smallPicture) continue;
    if (factor * 10 < least || factor * 4 > most * 1.3) continue;
    const wanted = spots(level, factor).filter(
      (spot) =>
        (search.bright === undefined || spot.contrast > 0 === search.bright) && near(spot.center, search)
    );
    for (const spot of wanted.slice(0, 2 * mostVerified)) {
      if (found.some((other) => same(other, spot))) continue;
      const marker = verified(patch, levels, spot, search, openBeam);
      if (!marker || marker.diameterPx < least - 0.5 || marker.diameterPx > most + 0.5) continue;
      const twin = found.findIndex(
        (other) =>
          Math.hypot(other.center.x - marker.center.x, other.center.y - marker.center.y) <
          0.3 * marker.diameterPx
      );
      if (twin < 0) found.push(marker);
      else if (marker.confidence > found[twin].confidence) found[twin] = marker;
    }
  }
  return judged(found);
}

/** The grey of the open beam, as near as a picture tells: what only one in a hundred samples is darker than. */
export function darkest({ data }: Patch): number {
  const step = Math.max(1, Math.floor(data.length / 20_000));
  const sampled: number[] = [];
  for (let i = 0; i < data.length; i += step) sampled.push(data[i]);
  return sampled.sort((a, b) => a - b)[Math.floor(sampled.length * 0.01)];
}

const smallPicture = 1_500_000;

const near = (point: Point, { hint }: RoundSearch) =>
  !hint || Math.hypot(point.x - hint.at.x, point.y - hint.at.y) <= hint.withinPx;

const same = (marker: RoundMarker, spot: Spot) =>
  marker.confidence > 0.8 &&
  Math.hypot(marker.center.x - spot.center.x, marker.center.y - spot.center.y) < 0.25 * marker.diameterPx &&
  spot.radiusPx < marker.diameterPx;

export function judged<M extends { confidence: number }>(found: M[]): MarkerFound<M> {
  const sure = found
    .filter(({ confidence }) => confidence > 0.25)
    .sort((a, b) => b.confidence - a.confidence);
  if (sure.length === 0 || sure[0].confidence < leastConfidence) return { outcome: 'none', others: sure };
  if (sure.length > 1 && sure[1].confidence > sure[0].confidence - clearlyBetter)
    return { outcome: 'several', others: sure };
  return { outcome: 'found', best: sure[0], others: sure.slice(1) };
}

function levelsOf(patch: Patch, mostPx: number): Patch[] {
  const levels = [patch];
  while (
    10 * 2 ** (levels.length - 1) < mostPx * 1.5 &&
    Math.min(patch.width, patch.height) >> levels.length >= 12
  )
    levels.push(halved(levels[levels.length - 1]));
  return levels;
}

/** Follows the spot's edge coarsely, then at the finest level that a large marker needs. */
function verified(
  full: Patch,
  levels: Patch[],
  spot: Spot,
  search: RoundSearch,
  openBeam: number
): RoundMarker | null {
  const bright = spot.contrast > 0;
  const depth = Math.min(levels.length - 1, Math.max(0, Math.floor(Math.log2(spot.radiusPx / 10))));
  const factor = 2 ** depth;
  const coarse = outlineAt(
    levels[depth],
    { x: spot.center.x / factor, y: spot.center.y / factor },
    spot.radiusPx / factor,
    bright,
    { rays: 48, from: 0.35, to: 2, allow: 0.08 }
  );
  if (!coarse || coarse.share < 0.5) return null;
  const again = {
    center: { x: coarse.center.x * factor, y: coarse.center.y * factor },
    radiusPx: coarse.radiusPx * factor
  };
  if (Math.hypot(again.center.x - spot.center.x, again.center.y - spot.center.y) > again.radiusPx)
    return null;
  const outline = outlineAt(full, again.center, again.radiusPx, bright, {
    rays: Math.min(180, Math.max(64, Math.round(4 * again.radiusPx))),
    from: 0.72,
    to: 1.22,
    allow: 0.035
  });
  if (!outline) return null;
  const looks = likeness(full, outline);
  if (looks < worthFitting) return null;
  const throughMiddle =
    search.diameterMm === undefined ? undefined : search.diameterMm * (search.perMm ?? steelPerMm);
  const fit = edgeFit(full, outline, search.kind, bright, {
    throughMiddle,
    openBeam: bright ? openBeam : undefined
  });
  return marked(outline, looks, fit, search.kind, bright);
}

/** Steel at the energies of diagnostic x-rays, natural logarithm a millimetre. */
const steelPerMm = 1.4;
/** Candidates that look less like a marker than this are not fitted. */
const worthFitting = 0.25;

/** 0 to 1 without a fit: how much of the outline is there, how true, how round, how even inside, how clear of noise. */
function likeness(full: Patch, outline: Outline): number {
  const { radiusPx, ovalPx, share, residualPx } = outline;
  const elongation = (radiusPx + ovalPx) / Math.max(1e-6, radiusPx - ovalPx);
  return (
    clamped((share - 0.5) / 0.35) *
    clamped(1.25 - (residualPx / (0.25 + 0.02 * radiusPx)) * 0.5) *
    clamped((1.2 - elongation) / 0.12) *
    clamped(evennessOf(full, outline)) *
    clamped((standingOut(full, outline) - 2) / 3)
  );
}

function marked(
  outline: Outline,
  looks: number,
  fit: ReturnType<typeof edgeFit>,
  kind: 'ball' | 'disc',
  bright: boolean
): RoundMarker {
  const { center, radiusPx, ovalPx, share, residualPx } = outline;
  const usable = fit !== null && fit.converged;
  return {
    kind,
    center,
    diameterPx: 2 * (usable ? fit.radiusPx : radiusPx),
    uncertaintyPx:
      2 * (usable ? fit.uncertaintyPx : 0.6) + residualPx / Math.sqrt(share * outline.offPx.length),
    elongation: (radiusPx + ovalPx) / Math.max(1e-6, radiusPx - ovalPx),
    residualPx,
    seen: share,
    bright,
    confidence: looks * (usable ? clamped(1.2 - fit.rms / 0.12) : 0.5)
  };
}

const clamped = (value: number) => Math.min(1, Math.max(0, value));

/** A marker is even inside: how much its middle varies against the step at its edge. */
function evennessOf(full: Patch, { center, radiusPx, contrast }: Outline): number {
  const reach = radiusPx * 0.6;
  let sum = 0;
  let squares = 0;
  let count = 0;
  const step = Math.max(1, reach / 12);
  for (let dy = -reach; dy <= reach; dy += step)
    for (let dx = -reach; dx <= reach; dx += step) {
      if (dx * dx + dy * dy > reach * reach) continue;
      const x = Math.min(full.width - 1, Math.max(0, Math.floor(center.x + dx)));
      const y = Math.min(full.height - 1, Math.max(0, Math.floor(center.y + dy)));
      const value = full.data[y * full.width + x];
      sum += value;
      squares += value * value;
      count++;
    }
  if (count < 2) return 1;
  const spread = Math.sqrt(Math.max(0, squares / count - (sum / count) ** 2));
  return 1.3 - (2.2 * spread) / Math.max(1e-6, Math.abs(contrast));
}

/** The step at the edge against how much values vary from pixel to pixel around the marker, inside and out. */
function standingOut(full: Patch, { center, radiusPx, contrast }: Outline): number {
  const differences: number[] = [];
  const rays = 40;
  for (const at of [0.5, 1.6, 2]) {
    const r = Math.max(at * radiusPx, at > 1 ? radiusPx + 2 : 0);
    for (let i = 0; i < rays; i++) {
      const a = (2 * Math.PI * i) / rays;
      const x = Math.floor(center.x + r * Math.cos(a));
      const y = Math.floor(center.y + r * Math.sin(a));
      if (x < 1 || y < 1 || x >= full.width - 1 || y >= full.height - 1) continue;
      const i0 = y * full.width + x;
      differences.push(Math.abs(full.data[i0] - (full.data[i0 - 1] + full.data[i0 + 1]) / 2));
    }
  }
  if (differences.length < 10) return 10;
  differences.sort((a, b) => a - b);
  const noise = differences[Math.floor(differences.length * 0.75)];
  return Math.abs(contrast) / Math.max(1e-6, noise * 1.1);
}
