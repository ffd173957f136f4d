import type { Scale } from '$core/calibration/scale';
import { type LayerName, layerKindOf } from '$core/picture/layers/all';
import type { ScaleGiven } from '$core/picture/layers/scale/scale';
import { type PictureItem, scaleInUse, withLayer } from '$core/picture/pictureLayers';
import type { PictureView } from '$core/picture/pictureView';
import type { PlacedPoint } from '$core/calibration/scale';
import type { Value } from '$core/measurement/measured';
import { type Look, inverted } from '$core/raster/look/look';
import { type Orientation, mirrored, turned } from '$core/raster/orientation';
import type { LayerChange } from '../visit/pending';
import type { VisitStore } from '../visit/visitStore.svelte';

export interface ShownReading {
  item: PictureItem;
  words: string;
  measured: Value;
}

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
  readonly look: Look = $derived.by(() => this.layers.look ?? this.picture().firstLook);
  readonly orientation: Orientation = $derived.by(
    () => this.layers.orientation ?? this.picture().firstOrientation
  );
  readonly scale: Scale | null = $derived.by(() => scaleInUse(this.layers, this.picture().fileScale));
  readonly readings: ShownReading[] = $derived.by(() => {
    const counts = new Map<LayerName, number>();
    return this.layers.items.flatMap((item) => {
      const { measure } = layerKindOf(item.kind);
      if (!measure) return [];
      const number = (counts.get(item.kind) ?? 0) + 1;
      counts.set(item.kind, number);
      const measured = measure.measured(this.inSquares(item), this.scale);
      return [{ item, words: `${words(item.kind)} ${number}`, measured }];
    });
  });

  /** A reading's body in square pixels, where nothing but the shape of the pixels is known. */
  private inSquares({ kind, body }: PictureItem): unknown {
    const { pixelAspect } = this.picture();
    const { placed } = layerKindOf(kind);
    if (this.scale || !pixelAspect || !placed) return body;
    const points = placed.pointsOf(body).map((point) => ({ ...point, y: point.y * pixelAspect }));
    return placed.withPoints(body, points);
  }

  /** Shows a change without keeping it: while something is dragged. */
  drag(change: LayerChange): void {
    this.dragged = change;
  }

  /** What was being dragged is as it was. */
  leave(): void {
    this.dragged = null;
  }

  private keep(change: LayerChange, message = words(change.kind)): void {
    const { pictureId } = this.picture();
    void this.store.act(pictureId, [change], message);
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
  mirror(): void {
    this.keep({ kind: 'orientation', item: null, body: mirrored(this.orientation) });
  }

  /** A new thing of a kind from its points. @returns its id */
  add(kind: LayerName, points: PlacedPoint[]): string {
    const item = crypto.randomUUID();
    this.keep({ kind, item, body: layerKindOf(kind).placed!.made!(points) });
    return item;
  }
  /** Points of something on the picture elsewhere; kept once the move is done. */
  move(item: PictureItem, points: PlacedPoint[], done: boolean): void {
    const body = layerKindOf(item.kind).placed!.withPoints(item.body, points);
    const change: LayerChange = { kind: item.kind, item: item.id, body };
    if (done) this.keep(change, `${words(item.kind)} moved`);
    else this.drag(change);
  }
  remove(item: PictureItem): void {
    this.keep({ kind: item.kind, item: item.id, body: null }, `${words(item.kind)} removed`);
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
