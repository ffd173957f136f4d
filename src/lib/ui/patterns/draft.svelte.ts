import { type Place, placeMap, samePlace } from '$core/anatomy/place';
import { type Projection, isInMouth } from '$core/anatomy/projections';
import { type Trade, orderSchema, slotsSchema, trades } from '$core/tray/pattern';
import { proposedSlots, takenAs } from '$core/tray/propose';
import type { Slot } from '$core/tray/slot';
import { z } from 'zod';
import { sheetsOf } from '$core/body/drawings';

const stored = z.object({
  name: z.string(),
  trade: z.enum(trades),
  slots: slotsSchema.or(z.array(z.never())),
  order: orderSchema
});
export type DraftState = z.infer<typeof stored>;

const step = 0.02;

/** Where a place stands on its drawing of the body, 0 to 1 from left and top. */
function placeOnDrawing(place: Place): { x: number; y: number } | null {
  const map = placeMap(place);
  for (const { drawing } of map ? sheetsOf([map]) : []) {
    const spot = drawing.spots.find((each) => samePlace(each.place, place));
    if (spot) return { x: spot.x / drawing.width, y: spot.y / drawing.height };
  }
  return null;
}

const within = (share: number) => Math.max(0, Math.min(1, share));

/** A pattern while it is laid: kept on this machine at every change, so that closing the page loses nothing. */
export class PatternDraft {
  name = $state('');
  trade = $state<Trade>('teeth');
  slots = $state.raw<Slot[]>([]);
  order = $state.raw<string[]>([]);
  chosenId = $state<string | null>(null);

  constructor(
    private readonly key: string,
    start: DraftState
  ) {
    this.set(start);
  }

  readonly chosen = $derived.by(() => this.slots.find(({ id }) => id === this.chosenId) ?? null);
  /** Slots that the thread has not gone through yet. */
  readonly unthreaded = $derived.by(() => this.slots.filter(({ id }) => !this.order.includes(id)));

  private set({ name, trade, slots, order }: DraftState): void {
    [this.name, this.trade, this.slots, this.order] = [name, trade, slots, order];
  }

  /** What was left unfinished here before, if anything. */
  static leftover(key: string): DraftState | null {
    try {
      return stored.parse(JSON.parse(localStorage.getItem(key) ?? 'null'));
    } catch {
      return null;
    }
  }
  takeUp(state: DraftState): void {
    this.set(state);
  }
  keep(): void {
    const { name, trade, slots, order } = this;
    localStorage.setItem(this.key, JSON.stringify({ name, trade, slots, order }));
  }
  forget(): void {
    localStorage.removeItem(this.key);
  }

  /** Touching an anatomy: into the chosen well, or out of it; with none chosen, a new well. */
  touch(place: Place): void {
    const { chosen } = this;
    if (!chosen) return this.add(place);
    const has = chosen.places.some((each) => samePlace(each, place));
    const places = has ? chosen.places.filter((each) => !samePlace(each, place)) : [...chosen.places, place];
    if (places.length > 0) this.change({ places });
  }
  private add(place: Place): void {
    const fresh = proposedSlots([place]).map((slot, i) => ({
      ...slot,
      id: `slot-${crypto.randomUUID().slice(0, 8)}`,
      at: this.freePlace(place, i)
    }));
    this.slots = [...this.slots, ...fresh];
    this.order = [...this.order, ...fresh.map(({ id }) => id)];
    this.chosenId = fresh.length === 1 ? fresh[0].id : null;
  }
  /** The place of a grid that no well is near and that lies nearest to where the anatomy stands on its drawing. */
  private freePlace(place: Place, after: number): { x: number; y: number } {
    const near = placeOnDrawing(place) ?? { x: 0, y: 0.5 };
    const spots = [0.5, 0.05, 0.95].flatMap((y) =>
      Array.from({ length: 7 }, (_, i) => ({ x: (i + 0.5) / 7, y }))
    );
    const free = spots.filter(({ x, y }) =>
      this.slots.every(({ at }) => Math.abs(at.x - x) > 0.1 || Math.abs(at.y - y) > 0.3)
    );
    const far = ({ x, y }: { x: number; y: number }) => Math.hypot(x - near.x, (y - near.y) * 1.5);
    free.sort((a, b) => far(a) - far(b));
    return free[after] ?? free.at(-1) ?? { x: 0.5, y: 0.5 };
  }

  change(changes: Partial<Slot>, id = this.chosenId): void {
    this.slots = this.slots.map((slot) => (slot.id === id ? { ...slot, ...changes } : slot));
  }
  /** How a chosen slot is taken; the sensor lies as it has to for that. */
  take(projection: Projection): void {
    const { chosen } = this;
    if (!chosen) return;
    const { id, at, name, places } = chosen;
    const as = takenAs(chosen, projection);
    this.change({ ...as, id, at, name, places: isInMouth(projection) ? as.places : places });
  }
  move(id: string, at: { x: number; y: number }): void {
    this.change({ at: { x: within(at.x), y: within(at.y) } }, id);
  }
  nudge(id: string, dx: number, dy: number): void {
    const slot = this.slots.find((each) => each.id === id);
    if (slot) this.move(id, { x: slot.at.x + dx * step, y: slot.at.y + dy * step });
  }
  remove(id: string): void {
    this.slots = this.slots.filter((slot) => slot.id !== id);
    this.order = this.order.filter((each) => each !== id);
    if (this.chosenId === id) this.chosenId = null;
  }

  pullOut(): void {
    this.order = [];
  }
  /** The thread goes through one more well; through one that it goes through already it goes no second time. */
  thread(id: string): void {
    if (!this.order.includes(id)) this.order = [...this.order, id];
  }
}
