import { numberWords } from '../writing';
import { proxy } from 'comlink';
import { type Scale } from '$core/calibration/scale';
import type { CommonPair, CommonPoints } from '$core/picture/layers/common/common';
import { type PictureView, orientationOf } from '$core/picture/pictureView';
import { type LaidOver, inverse, laidOver, onto } from '$core/raster/geometry/similarity';
import { type Point, toImage, toOriented } from '$core/raster/orientation';
import { type SharedView, type Stage, fitted, fromShared, shared } from '$core/raster/view';
import type { Standing } from '../../workers/finder';
import { Finding } from './finding';
import { send } from '../net/send';
import { thePainter } from '../stage/painting';
import type { ShownDrawing } from '../stage/shownDrawing';
import { shapeOf } from '../stage/viewport.svelte';
import type { VisitStore } from '../visit/visitStore.svelte';

export type Mode = 'side' | 'slider' | 'blink' | 'difference';
export type Which = 'now' | 'then';
export const mostPairs = 4;

const screenOf = (picture: PictureView, width: number, height: number): Stage => ({
  picture,
  orientation: orientationOf(picture),
  screen: { width, height }
});

const standing = (picture: PictureView): Standing => ({
  shape: shapeOf(picture),
  orientation: orientationOf(picture)
});
/** Pictures that differ in size by less are taken to have pixels of one size where no file says. */
const alikeInSize = 1.5;
/** Pixels of the later picture to one of the earlier, as far as is known. */
function expectedScale(now: PictureView, then: PictureView): number {
  if (now.fileScale && then.fileScale) return then.fileScale.mmPerPixelX / now.fileScale.mmPerPixelX;
  const ratio = Math.max(now.width, now.height) / Math.max(then.width, then.height);
  return Math.max(ratio, 1 / ratio) < alikeInSize ? 1 : ratio;
}

/** Today's picture and an earlier one of the same place: which, laid over each other by what, and seen how. */
export class ThenNow {
  /** Whether one of them is being chosen, or lies there. */
  open = $state(false);
  then = $state.raw<PictureView | null>(null);
  /** Earlier pictures of the same place, the newest first; null until they have come. */
  earlier = $state.raw<PictureView[] | null>(null);
  failed = $state('');
  mode = $state<Mode>('side');
  /** How much of the width is the earlier one's, as a slider. */
  share = $state(0.5);
  /** In a blink: whether it is the earlier one that is seen. */
  thenSeen = $state(false);
  /** Whether points are being placed. */
  placing = $state(false);
  /** How much of the search for common points is done, 0 to 1; null while none goes on. */
  searched = $state<number | null>(null);
  /** What came of it where nothing was found. */
  foundNothing = $state('');
  private readonly finding = new Finding();
  /** A point that waits for its partner. */
  private half = $state.raw<{ which: Which; at: Point } | null>(null);
  /** A pair as it is while one of its points is dragged. */
  private dragged = $state.raw<{ index: number; pair: CommonPair } | null>(null);
  changes = $state.raw<{ of: string; pixels: ImageData } | null>(null);

  constructor(
    private readonly store: VisitStore,
    private readonly now: () => PictureView | null
  ) {}

  /** Points of both, in image pixels of each. */
  readonly pairs: readonly CommonPair[] = $derived.by(() => {
    const { then } = this;
    const item = this.now()?.layers.items.find(({ kind, id }) => kind === 'common' && id === then?.pictureId);
    const kept = (item?.body as CommonPoints | undefined)?.pairs ?? [];
    const { dragged } = this;
    return dragged ? kept.map((pair, i) => (i === dragged.index ? dragged.pair : pair)) : kept;
  });

  /** From the earlier picture as it is turned to today's; null until two points are common to both. */
  readonly laid: LaidOver | null = $derived.by(() => {
    const now = this.now();
    const { then } = this;
    if (!now || !then) return null;
    return laidOver(
      this.pairs.map(({ here, there }) => ({
        from: toOriented(there, then, orientationOf(then)),
        to: toOriented(here, now, orientationOf(now))
      }))
    );
  });

  /** How well the points fit, in words. */
  fit(scale: Scale | null): string {
    const count = this.pairs.length;
    if (count < 2) return '';
    if (!this.laid) return 'The points lie in one place: take some further apart.';
    const { residual } = this.laid;
    if (residual === null) return 'Laid over by 2 points. A third tells how well they fit.';
    const off = scale
      ? `${numberWords(residual * scale.mmPerPixelX, 2)} mm`
      : `${numberWords(residual, 1)} px`;
    return `Laid over by ${count} points, which are ${off} off on average.`;
  }
  readonly someFound = $derived(this.pairs.some(({ found }) => found));

  async show(): Promise<void> {
    this.open = true;
    const now = this.now();
    if (!now || this.earlier) return;
    try {
      const found = await send<PictureView[]>('GET', `/api/pictures/${now.pictureId}/same-place`);
      if (this.now()?.pictureId !== now.pictureId) return;
      // Those of the same projection first, each kind newest first as they come.
      const alike = (each: PictureView) => Number(each.slot?.projection === now.slot?.projection);
      this.earlier = found
        .filter(({ takenAt }) => takenAt < now.takenAt)
        .toSorted((a, b) => alike(b) - alike(a));
      this.failed = '';
    } catch (error) {
      this.failed = (error as Error).message;
    }
  }

  choose(then: PictureView): void {
    this.leave();
    this.then = then;
    this.placing = this.pairs.length < 2;
  }

  /** Looks for points that both have in common, in place of all there are. */
  async find(): Promise<void> {
    const [now, then] = [this.now(), this.then];
    if (!now || !then || this.finding.underWay) return;
    this.half = null;
    this.foundNothing = '';
    this.searched = 0;
    try {
      const done = await this.finding.run((finder, isWanted) => {
        const told = proxy(({ done, of }: { done: number; of: number }) => {
          if (isWanted()) this.searched = done / of;
        });
        return finder.places(standing(now), standing(then), expectedScale(now, then), told);
      });
      if (!done) return;
      const { pairs, because } = done.found;
      if (pairs.length > 0) {
        this.keep(pairs.map((pair) => ({ ...pair, found: true as const })));
        this.placing = false;
      } else this.foundNothing = `${because} Mark the points by hand.`;
    } catch (error) {
      this.foundNothing = (error as Error).message;
    }
    this.searched = null;
  }
  stopFinding(): void {
    this.finding.stop();
    this.searched = null;
  }

  /** Nothing half done stays; what was chosen and placed does. */
  private leave(): void {
    this.stopFinding();
    this.foundNothing = '';
    this.half = this.dragged = null;
    this.changes = null;
    this.placing = false;
    this.thenSeen = false;
  }
  close(): void {
    this.leave();
    this.open = false;
    this.then = null;
    this.mode = 'side';
  }
  /** Another picture lies on the table. */
  forget(): void {
    this.close();
    this.earlier = null;
  }

  /** The places as they are marked on one of the two, by number. */
  drawings(which: Which): ShownDrawing[] {
    const mark = (at: Point, i: number, found = false): ShownDrawing => {
      const words = `${i + 1}${found ? ' ?' : ''}`;
      return {
        id: `common-${i}`,
        kind: 'text',
        body: { at: { x: at.x, y: at.y, uncertaintyPx: 1 }, words },
        words
      };
    };
    const marks = this.pairs.map(({ here, there, found }, i) =>
      mark(which === 'now' ? here : there, i, found)
    );
    const { half } = this;
    return half?.which === which ? [...marks, mark(half.at, marks.length)] : marks;
  }

  /** Where the next point is wanted; null where none is. */
  readonly wanted: Which | null = $derived.by(() => {
    if (!this.placing || this.mode !== 'side' || this.pairs.length >= mostPairs) return null;
    return this.half?.which === 'then' ? 'now' : 'then';
  });

  placed(which: Which, { x, y }: Point): void {
    const { half } = this;
    if (!half || half.which === which) {
      this.half = { which, at: { x, y } };
      return;
    }
    const [here, there] = which === 'now' ? [{ x, y }, half.at] : [half.at, { x, y }];
    this.half = null;
    this.keep([...this.pairs, { here, there }]);
    if (this.pairs.length >= mostPairs) this.placing = false;
  }

  /** A point is moved; kept once the move is done. */
  moved(which: Which, id: string, { x, y }: Point, done: boolean): void {
    const index = Number(id.split('-')[1]);
    const pair = this.pairs[index];
    if (!pair) {
      if (done && this.half?.which === which) this.half = { which, at: { x, y } };
      return;
    }
    const changed: CommonPair =
      which === 'now' ? { here: { x, y }, there: pair.there } : { here: pair.here, there: { x, y } };
    if (!done) {
      this.dragged = { index, pair: changed };
      return;
    }
    this.dragged = null;
    this.keep(this.pairs.map((each, i) => (i === index ? changed : each)));
  }
  left(): void {
    this.dragged = null;
  }

  /** Takes the last point off, and its partner. */
  dropLast(): void {
    if (this.half) this.half = null;
    else this.keep(this.pairs.slice(0, -1));
  }
  get canDrop(): boolean {
    return this.half !== null || this.pairs.length > 0;
  }

  private keep(pairs: readonly CommonPair[]): void {
    const plain = pairs.map(({ here, there, found }) => ({
      here: { x: here.x, y: here.y },
      there: { x: there.x, y: there.y },
      ...(found ? { found } : {})
    }));
    void this.store.act(
      this.now()!.pictureId,
      [{ kind: 'common', item: this.then!.pictureId, body: plain.length > 0 ? { pairs: plain } : null }],
      'Common points'
    );
  }

  /** Where the earlier one looks when today's looks there, on a stage of the same size. */
  carried(where: SharedView | null, width: number, height: number): SharedView | null {
    const [now, then] = [this.now(), this.then];
    if (!now || !then || !this.laid || width < 1) return where;
    const [mine, other] = [screenOf(now, width, height), screenOf(then, width, height)];
    const view = where ? fromShared(where, mine) : fitted(mine);
    const { similarity } = this.laid;
    return shared(
      { center: onto(inverse(similarity), view.center), zoom: view.zoom * similarity.scale },
      other
    );
  }
  /** The way back. */
  carriedBack(where: SharedView | null, width: number, height: number): SharedView | null {
    const [now, then] = [this.now(), this.then];
    if (!where || !now || !then || !this.laid || width < 1) return where;
    const view = fromShared(where, screenOf(then, width, height));
    const { similarity } = this.laid;
    return shared(
      { center: onto(similarity, view.center), zoom: view.zoom / similarity.scale },
      screenOf(now, width, height)
    );
  }

  /** Works out what has changed, for the points as they are. */
  async findChanges(): Promise<void> {
    const [now, then] = [this.now(), this.then];
    if (!now || !then || !this.laid) return;
    const of = JSON.stringify([now.pictureId, then.pictureId, this.laid.similarity]);
    if (this.changes?.of === of) return;
    const back = inverse(this.laid.similarity);
    const at = (x: number, y: number) =>
      toImage(onto(back, toOriented({ x, y }, now, orientationOf(now))), then, orientationOf(then));
    try {
      const pixels = await thePainter().difference({
        now: shapeOf(now),
        then: shapeOf(then),
        origin: at(0, 0),
        right: at(1, 0),
        below: at(0, 1)
      });
      if (this.now()?.pictureId === now.pictureId) this.changes = { of, pixels };
      this.failed = '';
    } catch (error) {
      this.failed = `What changed can’t be worked out: ${(error as Error).message}`;
    }
  }
}
