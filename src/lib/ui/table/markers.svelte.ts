import { type Remote, wrap } from 'comlink';
import { type ClinicMarker } from '$core/calibration/markerShape';
import { contradiction, magnificationOf, roundSearch } from '$core/calibration/markerSearch';
import type { RoundMarker } from '$core/calibration/markers/findRound';
import type { PlacedPoint, Scale } from '$core/calibration/scale';
import { type Value, coverageFactor } from '$core/measurement/measured';
import { circle } from '$core/measurement/round';
import { type MarkerGiven, scaleLayer } from '$core/picture/layers/scale/scale';
import type { PictureView } from '$core/picture/pictureView';
import type { Point } from '$core/raster/orientation';
import type { Finder } from '../../workers/finder';
import FinderWorker from '../../workers/finder.worker?worker';
import { shapeOf } from '../stage/viewport.svelte';

/** Something round in the picture that may be one of the clinic's markers. */
export interface MarkerProposal {
  id: string;
  center: Point;
  diameterPx: number;
  uncertaintyPx: number;
  /** The markers it can be. */
  markers: ClinicMarker[];
  /** Why a person has to look: empty where it is clear. */
  doubts: string[];
  byHand: boolean;
}

/** Looking for the clinic's markers in one picture: under way, done or failed, and what came of it. */
export class MarkerSearch {
  state = $state<'idle' | 'looking' | 'done' | 'failed'>('idle');
  /** What is looked for at present, and how far it is. */
  words = $state('');
  proposals = $state.raw<MarkerProposal[]>([]);
  private worker: Worker | null = null;
  private run = 0;

  forget(): void {
    this.stop();
    this.state = 'idle';
    this.proposals = [];
  }

  stop(): void {
    this.run++;
    this.worker?.terminate();
    this.worker = null;
    if (this.state === 'looking') this.state = 'idle';
  }

  /** @param round balls and discs */
  async find(picture: PictureView, frame: number, round: readonly ClinicMarker[]): Promise<void> {
    this.forget();
    const run = this.run;
    this.state = 'looking';
    this.worker = new FinderWorker();
    const finder = wrap<Finder>(this.worker) as Remote<Finder>;
    try {
      for (const [i, marker] of round.entries()) {
        this.words = `${marker.name} (${i + 1} of ${round.length})`;
        const found = await finder.round(shapeOf(picture), frame, roundSearch(marker, picture.fileScale));
        if (this.run !== run) return;
        const seen = found.outcome === 'found' ? [found.best] : found.others.slice(0, mostOffered);
        const why = found.outcome === 'several' ? ['several are alike'] : [];
        for (const each of seen) this.offer(marker, each, [...each.doubts, ...why]);
      }
      this.state = 'done';
    } catch (error) {
      if (this.run !== run) return;
      this.state = 'failed';
      this.words = (error as Error).message;
    } finally {
      if (this.run === run) {
        this.worker?.terminate();
        this.worker = null;
      }
    }
  }

  private offer(marker: ClinicMarker, seen: RoundMarker, doubts: string[]): void {
    const { center, diameterPx, uncertaintyPx } = seen;
    const twin = this.proposals.find(
      (each) =>
        Math.hypot(each.center.x - center.x, each.center.y - center.y) < sameShare * diameterPx &&
        Math.abs(each.diameterPx - diameterPx) < sameShare * diameterPx
    );
    if (twin)
      this.proposals = this.proposals.map((each) =>
        each === twin ? { ...each, markers: [...each.markers, marker] } : each
      );
    else
      this.proposals = [
        ...this.proposals,
        {
          id: `proposal ${this.proposals.length}`,
          center,
          diameterPx,
          uncertaintyPx,
          markers: [marker],
          doubts,
          byHand: false
        }
      ];
  }

  /** A circle that somebody drew round one, through these points. */
  drawn(points: readonly PlacedPoint[], round: readonly ClinicMarker[]): void {
    this.forget();
    try {
      const { center, diameter } = circle(points, null);
      const uncertaintyPx = diameter.plusMinus / coverageFactor;
      this.proposals = [
        {
          id: 'by hand',
          center,
          diameterPx: diameter.value,
          uncertaintyPx,
          markers: [...round],
          doubts: [],
          byHand: true
        }
      ];
      this.state = 'done';
    } catch (error) {
      if (!(error instanceof RangeError)) throw error;
      this.state = 'failed';
      this.words = `That is no circle: ${error.message}. Draw round it again.`;
    }
  }

  has(id: string): boolean {
    return this.proposals.some((each) => each.id === id);
  }
  /** An outline put right by a person: what was doubted has been looked at. */
  move(id: string, points: PlacedPoint[], aspect: number): void {
    this.proposals = this.proposals.map((each) => {
      if (each.id !== id) return each;
      const body = scaleLayer.placed!.withPoints(givenBy(each, each.markers[0], aspect), points);
      if (body.from !== 'marker') return each;
      const { center, diameterPx, uncertaintyPx } = body;
      return { ...each, center, diameterPx, uncertaintyPx, doubts: [], byHand: true };
    });
  }

  drop(id: string): void {
    this.proposals = this.proposals.filter((each) => each.id !== id);
  }
}

/** What lies nearer than this share of a diameter is the same thing. */
const sameShare = 0.1;
/** Where it is not clear which, so many are offered. */
const mostOffered = 3;

export const givenBy = (proposal: MarkerProposal, marker: ClinicMarker, aspect: number): MarkerGiven => ({
  from: 'marker',
  name: marker.name,
  knownMm: marker.sizeMm,
  toleranceMm: marker.toleranceMm,
  center: { x: proposal.center.x, y: proposal.center.y },
  diameterPx: proposal.diameterPx,
  uncertaintyPx: proposal.uncertaintyPx,
  aspect
});

/** What is to be said of a proposal as one marker: its magnification, and what contradicts it. */
export function saidOf(
  proposal: MarkerProposal,
  marker: ClinicMarker,
  fileScale: Scale | null
): { magnification: Value | null; contradiction: string | null } {
  return {
    magnification: magnificationOf(marker, proposal, fileScale),
    contradiction: contradiction(marker, proposal, fileScale)
  };
}
