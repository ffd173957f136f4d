import { type Scale, type PlacedPoint, scaleFromLine } from '$core/calibration/scale';
import { type Measured, length } from '$core/measurement/length';
import type { Look } from '$core/raster/look';
import { type Orientation, mirrored, turned } from '$core/raster/orientation';
import type { PictureView } from '$core/picture/pictureView';
import { outbox } from '../net/outbox.svelte';
import { attempt, send } from '../net/send';

type Ends = [PlacedPoint, PlacedPoint];

export interface ShownReading {
  id: string;
  ends: Ends;
  measured: Measured;
}

/**
 * One picture on the light table, as this page sees it: what the server holds, and above it what was made here and is
 * still on its way there. Every change is kept as it is made, and can be taken back one by one.
 */
export class Edits {
  private own = $state<Record<string, unknown>>({});

  constructor(private readonly picture: () => PictureView) {}

  private layer<T>(name: string, held: T): T {
    return name in this.own ? (this.own[name] as T) : held;
  }

  get look(): Look {
    return this.layer('look', this.picture().look) ?? this.picture().firstLook;
  }
  get orientation(): Orientation {
    return this.layer('orientation', this.picture().orientation);
  }
  get scale(): Scale | null {
    return (
      this.layer('scale', this.picture().scaleIsOwn ? this.picture().scale : null) ?? this.picture().fileScale
    );
  }
  get scaleLine(): Ends | null {
    const scale = this.layer<(Scale & { ends?: Ends }) | null>('scale', this.picture().scale);
    return scale?.ends ?? null;
  }
  get readings(): ShownReading[] {
    const held = new Map(this.picture().readings.map(({ id, reading }) => [id, reading.ends as Ends | null]));
    for (const [name, body] of Object.entries(this.own)) {
      if (name.startsWith('reading:')) held.set(name.slice(8), (body as { ends: Ends } | null)?.ends ?? null);
    }
    return [...held].flatMap(([id, ends]) =>
      ends ? [{ id, ends, measured: length(ends, this.scale) }] : []
    );
  }

  /** Shows a change here without keeping it: while something is dragged. */
  preview(layer: string, body: unknown): void {
    this.own = { ...this.own, [layer]: body };
  }

  /** Shows a change at once and keeps it. Once the server has it, its word counts again. */
  async keep(layer: string, body: unknown): Promise<void> {
    const { pictureId } = this.picture();
    this.preview(layer, body);
    await outbox.put(`/api/pictures/${pictureId}/steps`, {
      key: crypto.randomUUID(),
      layer,
      body: body === null ? null : $state.snapshot(body)
    });
    if (this.own[layer] === body || outbox.waiting.length === 0) await this.settle(layer);
  }

  /** Lets go of our own version a moment after it was kept, when the page has loaded it from the server. */
  private async settle(layer: string): Promise<void> {
    await new Promise((done) => setTimeout(done, 400));
    if (outbox.waiting.length > 0) return;
    const rest = { ...this.own };
    delete rest[layer];
    this.own = rest;
  }

  forget(): void {
    this.own = {};
  }

  setLook(look: Look, done: boolean): void {
    if (done) void this.keep('look', look);
    else this.preview('look', look);
  }
  invert(): void {
    void this.keep('look', { ...this.look, inverted: !this.look.inverted });
  }
  firstLook(): void {
    void this.keep('look', null);
    this.preview('look', this.picture().firstLook);
  }
  turn(quarterTurns: number): void {
    void this.keep('orientation', turned(this.orientation, quarterTurns));
  }
  mirror(): void {
    void this.keep('orientation', mirrored(this.orientation));
  }
  addLength(ends: Ends): string {
    const id = crypto.randomUUID();
    void this.keep(`reading:${id}`, { kind: 'length', ends });
    return id;
  }
  moveLength(id: string, ends: Ends, done: boolean): void {
    const body = { kind: 'length', ends };
    if (done) void this.keep(`reading:${id}`, body);
    else this.preview(`reading:${id}`, body);
  }
  removeLength(id: string): void {
    void this.keep(`reading:${id}`, null);
  }

  /** @throws RangeError in words when the line or the length can't give a scale */
  setScale(ends: Ends, knownMm: number, knownUncertaintyMm: number): void {
    const { fileScale } = this.picture();
    const aspect = fileScale ? fileScale.mmPerPixelY / fileScale.mmPerPixelX : 1;
    const scale = scaleFromLine(ends, knownMm, knownUncertaintyMm, aspect);
    void this.keep('scale', { ...scale, ends, knownMm, knownUncertaintyMm });
  }
  dropScale(): void {
    void this.keep('scale', null);
  }

  async takeBack(): Promise<void> {
    const { pictureId } = this.picture();
    this.forget();
    await attempt(() => send('POST', `/api/pictures/${pictureId}/take-back`, { key: crypto.randomUUID() }));
  }
}
