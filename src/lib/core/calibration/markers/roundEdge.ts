import type { Patch } from '../../raster/patch';
import { fittedEdge } from './edgeModel';
import { profileOf } from './edgeProfile';
import learned from './edgeReading.json';
import { readingBy, unlikeness } from './edgeReading';
import { type EdgeKnown, edgeSigns } from './edgeSigns';
import { pulledPx, settledOval } from './followed';
import type { Outline } from './outline';

interface Told {
  /** Mean radius of the thing itself, not of where its edge looks steepest. */
  radiusPx: number;
  /** Standard uncertainty of it, with what scatters the outline and makes it oval. */
  uncertaintyPx: number;
}

export interface RoundEdge extends Told {
  /** How far the greys across the edge are from any marker's, root mean square, as a share of the step. */
  unlike: number;
}

/** The model leaves more open than it says by so much. */
const modelWider = 2;
/** Both together are that much surer than their mixture. */
const together = 0.92;
/** What is uneven around a tilted disc makes its longest radius this unsure. */
const discOvalPx = 0.7 * pulledPx;

/**
 * The true radius of a ball or disc from the greys across its edge. Where an edge looks steepest is inside a ball's rim,
 * by how much depends on metal, scattered rays, the answer of the detector and what the maker lifted, none of which
 * anybody says. It is told in two ways that err apart: by a model of all that (`edgeModel`), and by what signs of an edge
 * were once learned to mean, from simulated pictures by chains of any kind (`scripts/learnEdges`). Each counts by how sure
 * it is; what they differ by is uncertain.
 * @returns null where no edge can be read
 */
export function roundEdge(
  patch: Patch,
  outline: Outline,
  kind: 'ball' | 'disc',
  bright: boolean,
  known: EdgeKnown = {}
): RoundEdge | null {
  const profile = profileOf(patch, outline, bright);
  const signs = profile && edgeSigns(patch, outline, profile, known);
  if (!signs) return null;
  const { numbers, widthPx } = signs;
  const reading = learned[kind];
  const { beyond, uncertainty } = readingBy(reading, numbers);
  const told = [{ radiusPx: outline.radiusPx + widthPx * beyond, uncertaintyPx: widthPx * uncertainty }];
  const fit = fittedEdge(profile, outline.radiusPx, kind, known);
  if (fit?.converged) {
    const kept = Math.max(1, outline.share * outline.offPx.length);
    const oval = kind === 'disc' ? discOvalPx : 0.5 * Math.min(pulledPx, settledOval(outline, kind));
    const whole = Math.hypot(fit.uncertaintyPx, (1.4 * outline.residualPx) / Math.sqrt(kept), oval);
    told.push({ radiusPx: fit.radiusPx, uncertaintyPx: modelWider * whole });
  }
  return { ...joined(told), unlike: unlikeness(reading, numbers) };
}

function joined(told: readonly Told[]): Told {
  if (told.length === 1) return told[0];
  const weights = told.map(({ uncertaintyPx }) => 1 / uncertaintyPx ** 2);
  const all = weights.reduce((sum, weight) => sum + weight, 0);
  const mean = (of: (one: Told) => number) =>
    told.reduce((sum, one, i) => sum + weights[i] * of(one), 0) / all;
  const radiusPx = mean((one) => one.radiusPx);
  const variance = mean((one) => one.uncertaintyPx ** 2 + (one.radiusPx - radiusPx) ** 2);
  return { radiusPx, uncertaintyPx: together * Math.sqrt(variance) };
}
