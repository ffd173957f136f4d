import { type Remote, wrap } from 'comlink';
import { type ClinicMarker } from '$core/calibration/markerShape';
import {
  type SeenSize,
  contradiction,
  magnificationOf,
  roundSearch,
  sizesInPicture
} from '$core/calibration/markerSearch';
import type { RulerMarker } from '$core/calibration/markers/findRuler';
import type { Found } from '$core/calibration/markers/judged';
import { distance, middleOf } from '$core/measurement/geometry';
import type { PlacedPoint, Scale } from '$core/calibration/scale';
import { type Value, coverageFactor } from '$core/measurement/measured';
import { circle } from '$core/measurement/round';
import {
  type LongGiven,
  type MarkerGiven,
  type RoundGiven,
  scaleLayer,
  seenOf
} from '$core/picture/layers/scale/scale';
import { type PictureView, orientationOf } from '$core/picture/pictureView';
import type { Finder } from '../../workers/finder';
import FinderWorker from '../../workers/finder.worker?worker';
import { shapeOf } from '../stage/viewport.svelte';

/** How something that may be a marker lies in the picture; a ruler's ends are so many of its lines' distances apart. */
export type SeenMarker =
  | ({ kind: 'round' } & Pick<RoundGiven, 'center' | 'diameterPx' | 'uncertaintyPx'>)
  | ({ kind: 'bar' | 'ruler'; places: number } & Pick<LongGiven, 'ends'>);

/** Something in the picture that may be one of the clinic's markers. */
export interface MarkerProposal {
  id: string;
  seen: SeenMarker;
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

  async find(picture: PictureView, frame: number, markers: readonly ClinicMarker[]): Promise<void> {
    this.forget();
    const run = this.run;
    this.state = 'looking';
    this.worker = new FinderWorker();
    const finder = wrap<Finder>(this.worker) as Remote<Finder>;
    try {
      for (const [i, marker] of markers.entries()) {
        this.words = `${marker.name} (${i + 1} of ${markers.length})`;
        const found = await lookedFor(finder, picture, frame, marker);
        if (this.run !== run) return;
        const seen = found.outcome === 'found' ? [found.best] : found.others.slice(0, mostOffered);
        const why = found.outcome === 'several' ? ['several are alike'] : [];
        for (const each of seen) this.offer(marker, each.seen, [...each.doubts, ...why]);
      }
      // What is clear stands first.
      this.proposals = this.proposals.toSorted((a, b) => a.doubts.length - b.doubts.length);
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

  private offer(marker: ClinicMarker, seen: SeenMarker, doubts: string[]): void {
    const twin = this.proposals.find((each) => isSame(each.seen, seen));
    if (twin)
      this.proposals = this.proposals.map((each) =>
        each === twin ? { ...each, markers: [...each.markers, marker] } : each
      );
    else {
      const id = `proposal ${this.proposals.length}`;
      this.proposals = [...this.proposals, { id, seen, markers: [marker], doubts, byHand: false }];
    }
  }

  /** A circle that somebody drew round one, through these points. */
  drawn(points: readonly PlacedPoint[], round: readonly ClinicMarker[]): void {
    this.forget();
    try {
      const { center, diameter } = circle(points, null);
      const uncertaintyPx = diameter.plusMinus / coverageFactor;
      const seen: SeenMarker = { kind: 'round', center, diameterPx: diameter.value, uncertaintyPx };
      this.proposals = [{ id: 'by hand', seen, markers: [...round], doubts: [], byHand: true }];
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
      return { ...each, seen: seenIn(body as MarkerGiven, each.seen), doubts: [], byHand: true };
    });
  }

  drop(id: string): void {
    this.proposals = this.proposals.filter((each) => each.id !== id);
  }
}

interface Seen {
  seen: SeenMarker;
  doubts: string[];
}

/** Looks for one marker, in the way of its shape. */
async function lookedFor(
  finder: Remote<Finder>,
  picture: PictureView,
  frame: number,
  marker: ClinicMarker
): Promise<Found<Seen>> {
  const shape = shapeOf(picture);
  const bounds = sizesInPicture(marker, picture.fileScale);
  if (marker.shape === 'bar') {
    const found = await finder.bars(shape, frame, bounds ? { lengthPx: bounds } : {});
    return eachSeen(found, ({ ends: [a, b], uncertaintyPx, doubts }) => {
      const each = uncertaintyPx / Math.SQRT2;
      const ends: LongGiven['ends'] = [
        { ...a, uncertaintyPx: each },
        { ...b, uncertaintyPx: each }
      ];
      return { seen: { kind: 'bar', places: 1, ends }, doubts };
    });
  }
  if (marker.shape === 'plumb line') {
    const line = await finder.plumb({ shape, orientation: orientationOf(picture) });
    if (!line) return { outcome: 'none', others: [] };
    const [a, b] = line.ends;
    const each = { uncertaintyPx: plumbEndPx };
    const best: Seen = {
      seen: {
        kind: 'bar',
        places: 1,
        ends: [
          { ...a, ...each },
          { ...b, ...each }
        ]
      },
      doubts: []
    };
    return { outcome: 'found', best, others: [] };
  }
  if (marker.shape === 'ruler') {
    const found = await finder.rulers(shape, frame);
    const fits = ({ spacingPx }: RulerMarker) =>
      !bounds || (spacingPx >= bounds.least && spacingPx <= bounds.most);
    const fitting: Found<RulerMarker> =
      found.outcome === 'found' && !fits(found.best)
        ? { outcome: 'none', others: [] }
        : { ...found, others: found.others.filter(fits) };
    return eachSeen(fitting, (ruler) => ({ seen: seenRuler(ruler), doubts: ruler.doubts }));
  }
  const found = await finder.round(shape, frame, roundSearch(marker, picture.fileScale));
  return eachSeen(found, ({ center, diameterPx, uncertaintyPx, doubts }) => ({
    seen: { kind: 'round', center, diameterPx, uncertaintyPx },
    doubts
  }));
}

function eachSeen<M>(found: Found<M>, seen: (marker: M) => Seen): Found<Seen> {
  const others = found.others.map(seen);
  return found.outcome === 'found' ? { ...found, best: seen(found.best), others } : { ...found, others };
}

/** From the first of a ruler's lines to the last, as far apart as all of them together tell. */
function seenRuler({ lines, places: count, spacingPx, uncertaintyPx }: RulerMarker): SeenMarker {
  const places = count - 1;
  const [first, last] = [lines[0], lines[lines.length - 1]];
  const middle = middleOf(first, last);
  const half = (spacingPx * places) / 2 / distance(first, last);
  const at = (sign: number) => ({
    x: middle.x + sign * half * (last.x - first.x),
    y: middle.y + sign * half * (last.y - first.y),
    uncertaintyPx: (uncertaintyPx * places) / Math.SQRT2
  });
  return { kind: 'ruler', places, ends: [at(-1), at(1)] };
}

/** The middle of a plumb line's ball is told to so many pixels, one standard deviation. */
const plumbEndPx = 1;
/** What lies nearer than this share of its size is the same thing. */
const sameShare = 0.1;
/** Where it is not clear which, so many are offered. */
const mostOffered = 3;

function isSame(a: SeenMarker, b: SeenMarker): boolean {
  if (a.kind === 'round')
    return (
      b.kind === 'round' &&
      distance(a.center, b.center) < sameShare * a.diameterPx &&
      Math.abs(a.diameterPx - b.diameterPx) < sameShare * a.diameterPx
    );
  if (a.kind !== b.kind || a.places !== b.places) return false;
  const near = sameShare * distance(...a.ends);
  return a.ends.every((end) => b.ends.some((other) => distance(end, other) < near));
}

/** What a scale's marker looks like in the picture. */
const seenIn = (given: MarkerGiven, before: SeenMarker): SeenMarker =>
  given.from === 'marker'
    ? {
        kind: 'round',
        center: given.center,
        diameterPx: given.diameterPx,
        uncertaintyPx: given.uncertaintyPx
      }
    : { ...(before as Exclude<SeenMarker, { kind: 'round' }>), ends: given.ends };

export function givenBy({ seen }: MarkerProposal, marker: ClinicMarker, aspect: number): MarkerGiven {
  const { name, sizeMm, toleranceMm } = marker;
  if (seen.kind === 'round') {
    const { kind: _, center, ...size } = seen;
    return {
      from: 'marker',
      name,
      knownMm: sizeMm,
      toleranceMm,
      center: { x: center.x, y: center.y },
      ...size,
      aspect
    };
  }
  const { places, ends } = seen;
  return {
    from: 'long marker',
    name,
    knownMm: sizeMm * places,
    toleranceMm: toleranceMm * places,
    ends: [{ ...ends[0] }, { ...ends[1] }],
    aspect
  };
}

/** How large it is in the picture: across, from end to end, or from line to line. */
export function sizeOf(proposal: MarkerProposal, aspect: number): SeenSize {
  const { sizePx, uncertaintyPx } = seenOf(givenBy(proposal, proposal.markers[0], aspect));
  const places = proposal.seen.kind === 'round' ? 1 : proposal.seen.places;
  return { sizePx: sizePx / places, uncertaintyPx: uncertaintyPx / places };
}

/** What is to be said of a proposal as one marker: its magnification, and what contradicts it. */
export function saidOf(
  proposal: MarkerProposal,
  marker: ClinicMarker,
  fileScale: Scale | null
): { magnification: Value | null; contradiction: string | null } {
  const size = sizeOf(proposal, 1);
  return {
    magnification: magnificationOf(marker, size, fileScale),
    contradiction: contradiction(marker, size, fileScale)
  };
}
