import type { Scale } from '$core/calibration/scale';
import { type LayerName, layerKindOf } from '$core/picture/layers/all';
import type { ScaleGiven } from '$core/picture/layers/scale/scale';
import { type PictureItem, scaleInUse, withLayer } from '$core/picture/pictureLayers';
import { confirmable } from '$core/picture/layers/confirmed/confirmed';
import { type ItemNote, noNote } from '$core/picture/layers/note/note';
import { cropBetween } from '$core/picture/layers/crop/crop';
import { type PictureView, aspectOf, openingLook, partOf } from '$core/picture/pictureView';
import { type PictureReading, readingsOf } from '$core/picture/readings';
import type { PlacedPoint } from '$core/calibration/scale';
import { type Look, inverted } from '$core/raster/look/look';
import {
  type Orientation,
  type Part,
  type Point,
  mirrored,
  straight,
  straightened,
  tilted,
  turned
} from '$core/raster/orientation';
import type { LayerChange } from '../visit/pending';
import type { VisitStore } from '../visit/visitStore.svelte';

const words = (kind: LayerName) => layerKindOf(kind).words;

/**
 * One picture as the person at this table works on it. What is being dragged is shown and not kept; each act is shown at
 * once and kept, also while the server is away.
 */
export class Edits {
  private dragged = $state.raw<LayerChange | null>(null);

  constructor(
    private readonly store: VisitStore,
    private readonly picture: () => PictureView
  ) {}

  readonly layers = $derived.by(() => {
    const { layers } = this.picture();
    return this.dragged ? withLayer(layers, this.dragged) : layers;
  });
  readonly look: Look = $derived.by(() => this.layers.look ?? openingLook(this.picture()));
  readonly orientation: Orientation = $derived.by(
    () => this.layers.orientation ?? this.picture().firstOrientation
  );
  readonly scale: Scale | null = $derived.by(() => scaleInUse(this.layers, this.picture().fileScale));
  /** Height of a pixel over its width, as far as anything says. */
  readonly aspect: number = $derived.by(() => aspectOf({ ...this.picture(), layers: this.layers }));
  /** All that is drawn, hidden or not. */
  readonly readings: PictureReading[] = $derived.by(() => readingsOf(this.layers, this.scale, this.aspect));

  /** Shows a change without keeping it: while something is dragged. */
  drag(change: LayerChange): void {
    this.dragged = change;
  }

  /** What was being dragged is as it was. */
  leave(): void {
    this.dragged = null;
  }

  private keep(change: LayerChange, message = words(change.kind)): void {
    this.keepAll([change], message);
  }
  private keepAll(changes: LayerChange[], message: string): void {
    const { items } = this.picture().layers;
    const made = changes.map((change) => {
      const from = layerKindOf(change.kind).joined && items.find(({ id }) => id === change.item)?.body;
      return from && change.body !== null ? { ...change, from } : change;
    });
    void this.store.act(this.picture().pictureId, made, message);
    this.dragged = null;
  }

  setLook(look: Look | null, done: boolean): void {
    const change: LayerChange = { kind: 'look', item: null, body: look };
    if (done) this.keep(change);
    else this.drag(change);
  }
  invert(): void {
    this.setLook(inverted(this.look), true);
  }
  turn(quarterTurns: number): void {
    this.keep({ kind: 'orientation', item: null, body: turned(this.orientation, quarterTurns) });
  }
  /** Tilts so that a line of the picture is seen level or upright. */
  straighten(from: Point, to: Point): void {
    const body = straightened(this.orientation, from, to, this.picture());
    this.keep({ kind: 'orientation', item: null, body }, 'Tilt');
  }
  /** @param tiltDeg clockwise, from standing straight */
  tilt(tiltDeg: number, done: boolean): void {
    const body = tilted(straight(this.orientation), tiltDeg);
    const change: LayerChange = { kind: 'orientation', item: null, body };
    if (done) this.keep(change, 'Tilt');
    else this.drag(change);
  }
  /** What of the picture is shown, as it is turned. */
  readonly part: Part | undefined = $derived.by(() => partOf({ ...this.picture(), layers: this.layers }));
  /** Shows what lies between two image points alone. @returns whether that is enough to be seen */
  crop(from: Point, to: Point): boolean {
    const body = cropBetween(from, to, this.picture(), this.orientation);
    if (body) this.keep({ kind: 'crop', item: null, body });
    else this.leave();
    return body !== null;
  }
  showAll(): void {
    this.keep({ kind: 'crop', item: null, body: null }, 'Crop taken off');
  }
  mirror(): void {
    this.keep({ kind: 'orientation', item: null, body: mirrored(this.orientation) });
  }

  /** A new thing of a kind. @param repeatOf the reading it is taken again of @returns its id */
  add(kind: LayerName, body: unknown, repeatOf: string | null = null): string {
    const item = crypto.randomUUID();
    const note: LayerChange[] = repeatOf
      ? [{ kind: 'note', item, body: { ...noNote, repeatOf } satisfies ItemNote }]
      : [];
    this.keepAll([{ kind, item, body }, ...note], words(kind));
    return item;
  }
  /** Puts something in place of what has its id, or takes it off. */
  put(kind: LayerName, item: string, body: unknown, message = words(kind)): void {
    this.keep({ kind, item, body }, message);
  }
  /** Points of something on the picture elsewhere; kept once the move is done. */
  move(item: PictureItem, points: PlacedPoint[], done: boolean): void {
    const body = layerKindOf(item.kind).placed!.withPoints(item.body, points);
    const change: LayerChange = { kind: item.kind, item: item.id, body };
    if (done) this.keep(change, `${words(item.kind)} moved`);
    else this.drag(change);
  }
  /**
   * Takes something off, with its name. A confirmation stays behind and counts for nothing: taking one off is for those
   * alone who may give one.
   */
  remove({ id, kind }: PictureItem): void {
    const about = this.layers.items.filter((each) => each.id === id && each.kind === 'note');
    this.keepAll(
      [{ kind, item: id, body: null }, ...about.map((each) => ({ kind: each.kind, item: id, body: null }))],
      `${words(kind)} removed`
    );
  }
  /** What something is called, and whether it is shown. */
  note({ item, note }: PictureReading, change: Partial<ItemNote>): void {
    this.keep(
      { kind: 'note', item: item.id, body: { ...note, ...change } },
      change.name ? 'Name' : 'Showing'
    );
  }
  /** Confirms readings as they are now, in one act. */
  confirm(readings: readonly PictureReading[]): void {
    this.keepAll(
      readings.map(({ item }) => ({
        kind: 'confirmed' as const,
        item: item.id,
        body: { as: confirmable(item.body) }
      })),
      'Confirmation'
    );
  }

  setScale(given: ScaleGiven | null): void {
    this.keep({ kind: 'scale', item: null, body: given });
  }

  takeBack(): void {
    this.leave();
    void this.store.takeBack(this.picture().pictureId);
  }
  bringBack(): void {
    this.leave();
    void this.store.bringBack(this.picture().pictureId);
  }
}
