import { toast } from 'svelte-sonner';
import { type Choosable, type Settled, deviceFor } from '$core/devices/choose';
import { fitsSlot, useOf } from '$core/devices/fits';
import { type PictureView, orientationOf, placesOf } from '$core/picture/pictureView';
import { mirrored, turned } from '$core/raster/orientation';
import { type ProposedSlot, filledByAnatomy } from '$core/tray/propose';
import type { Slot } from '$core/tray/slot';
import { nextEmpty } from '$core/tray/route';
import { wellOf, wellsAlong } from '$core/tray/tray';
import type { DeviceView } from '$core/visit/visitView';
import { Refused, ask, attempt, send } from '../net/send';
import type { TrayWish } from '../visit/pending';
import type { ShownTray, VisitStore } from '../visit/visitStore.svelte';
import type { PatternChoice } from './patternChoice';

/** What was done last here, so that taking back goes to where it was done. */
type Done = { on: 'tray'; trayId: string } | { on: 'picture'; pictureId: string };

/** What is done at the chair: which tray is in front, what is looked at, which device takes the next slot. */
export class Chair {
  private pickedTray = $state<string | null>(null);
  /** What the person picked to look at; a new take puts itself in front. */
  private picked = $state<string | null>(null);
  /** What the person said of devices on this page, before a series was begun with it. */
  private said = $state.raw<Settled>({});
  keep = $state(true);
  /** Why a device can't simply be had, while the person is asked whether to take it over. */
  takeOver = $state.raw<{ deviceId: string; sentence: string } | null>(null);
  private done: Done[] = [];
  private undone: Done[] = [];

  constructor(
    private readonly store: VisitStore,
    private readonly may: () => { acquire: boolean; changePictures: boolean }
  ) {}

  readonly armed = $derived.by(() =>
    this.store.devices.find(({ armed }) => armed?.visitId === this.store.head.visitId)
  );
  /** The one that was picked, else the one that a device waits for, else the newest. */
  readonly front: ShownTray = $derived.by(
    () =>
      this.store.trays.find(({ trayId }) => trayId === (this.pickedTray ?? this.armed?.armed?.trayId)) ??
      this.store.trays.at(-1)!
  );
  readonly tray = $derived.by(() => this.front.tray);
  readonly slot = $derived.by(() => (this.tray.present ? this.tray.wells[this.tray.present].slot : null));
  readonly shown: PictureView | null = $derived.by(
    () => this.store.picture(this.picked ?? this.store.pictures.at(-1)?.pictureId ?? '') ?? null
  );
  readonly shownWell = $derived.by(() => (this.shown ? this.store.wellOf(this.shown) : null));

  /** The devices that can take the next slot. */
  readonly fitting: readonly DeviceView[] = $derived.by(() => {
    const { slot } = this;
    return slot ? this.store.devices.filter(({ kind }) => fitsSlot(kind, slot)) : [];
  });
  /** The one that will; null where there is none, or somebody has to say. */
  readonly device: DeviceView | null = $derived.by(() => {
    const { slot, fitting } = this;
    const { devices } = this.store;
    if (!slot) {
      const usual = Object.values(this.store.head.habit);
      return this.armed ?? devices.find(({ deviceId }) => usual.includes(deviceId)) ?? devices[0] ?? null;
    }
    const of = (id: string | null | undefined) => fitting.find(({ deviceId }) => deviceId === id) ?? null;
    const { trayId } = this.front;
    return (
      of(this.said[useOf(slot.projection)]) ??
      of(
        deviceFor(slot, this.store.devices.map(choosable), {
          trayId,
          settled: this.tray.settled,
          habit: this.store.head.habit
        })
      ) ??
      (fitting.length === 1 ? fitting[0] : null)
    );
  });
  readonly untouched = $derived.by(
    () => this.tray.bench.length === 0 && wellsAlong(this.tray).every(({ takes }) => takes.length === 0)
  );

  pictureOf(pictureId: string): PictureView | null {
    return this.store.picture(pictureId) ?? null;
  }
  show(pictureId: string | null): void {
    this.picked = pictureId;
  }
  bringFront(trayId: string): void {
    this.pickedTray = trayId;
  }
  /** A new take puts itself and its tray in front. */
  newTake(): void {
    this.picked = null;
    this.pickedTray = this.store.pictures.at(-1)?.trayId ?? this.pickedTray;
  }

  private wish(body: TrayWish, words: string, trayId = this.front.trayId): void {
    this.done.push({ on: 'tray', trayId });
    this.undone = [];
    void this.store.wish(trayId, body, words);
  }

  tell(body: object, deviceId = this.device?.deviceId): Promise<boolean> {
    return attempt(() => send('POST', `/api/devices/${deviceId}`, body));
  }
  choose(deviceId: string): void {
    if (!this.slot) return;
    this.said = { ...this.said, [useOf(this.slot.projection)]: deviceId };
    if (this.armed) void this.ready();
  }
  /** Gets the device ready for the next slot; one that waits for another visit only when the person says so. */
  async ready(takeOver = false): Promise<void> {
    const { device } = this;
    if (!device || !this.may().acquire) return;
    const several = this.fitting.length > 1;
    const body = { kind: 'ready', trayId: this.front.trayId, takeOver, keep: several && this.keep };
    this.takeOver = null;
    await attempt(async () => {
      try {
        await send('POST', `/api/devices/${device.deviceId}`, body);
      } catch (error) {
        if (!(error instanceof Refused) || error.code !== 'waits-elsewhere') throw error;
        this.takeOver = { deviceId: device.deviceId, sentence: error.sentence };
      }
    });
  }
  rest(): void {
    void this.tell({ kind: 'rest' }, this.armed?.deviceId ?? this.device?.deviceId);
  }

  async lay({ pattern, route, name }: Pick<PatternChoice, 'pattern' | 'route' | 'name'>): Promise<void> {
    if (this.untouched) return this.wish({ kind: 'tray-laid', pattern, route }, `Laying ${name}`);
    await attempt(async () => {
      const { visitId } = this.store.head;
      const made = await ask<{ trayId: string }>(`/api/visits/${visitId}/trays`, { pattern, route });
      this.pickedTray = made.trayId;
    });
  }
  /** Slots that no pattern has, one after the other at the end of this tray's route. */
  addSlots(slots: readonly ProposedSlot[]): void {
    for (const slot of slots.map(withId)) this.wish({ kind: 'slot-added', slot }, `${slot.name}, as asked`);
  }
  /** The same slots as a tray of their own. */
  async layOnce(slots: readonly ProposedSlot[]): Promise<void> {
    await attempt(async () => {
      const url = `/api/visits/${this.store.head.visitId}/once`;
      const made = await ask<Pick<PatternChoice, 'pattern' | 'route'>>(url, { slots: slots.map(withId) });
      await this.lay({ ...made, name: 'what is wanted' });
    });
  }

  /** Goes on along another route: what is taken stays where it is. */
  layRoute(order: string[]): void {
    this.wish({ kind: 'route-laid', order }, 'Another route');
  }
  /** This slot is not wanted after all. */
  dropSlot(slotId: string): void {
    this.wish({ kind: 'slot-dropped', slotId }, `${this.tray.wells[slotId].slot.name}, left out`);
  }

  pickSlot(slotId: string): void {
    const well = this.tray.wells[slotId];
    this.picked = well.keeper;
    if (well.keeper === null && this.tray.present !== slotId && this.may().acquire)
      this.wish({ kind: 'slot-chosen', slotId }, `Next: ${well.slot.name}`);
  }
  /** On to the next empty slot, passing this one over. */
  nextSlot(): void {
    const slotId = nextEmpty(this.tray, this.tray.present);
    if (slotId && slotId !== this.tray.present)
      this.wish({ kind: 'slot-chosen', slotId }, `Next: ${this.tray.wells[slotId].slot.name}`);
  }
  anchor(): void {
    if (this.tray.anchored) this.wish({ kind: 'anchor-lifted' }, 'Lifting the anchor');
    else if (this.tray.present) this.wish({ kind: 'anchored', slotId: this.tray.present }, 'Anchoring');
  }
  /** Asks for the slot of a picture again: of the one that is looked at, else of the last take. */
  retake(picture = this.shown): void {
    const slot = picture && this.store.wellOf(picture)?.slot;
    if (!slot || !picture?.trayId) return;
    if (this.store.trayOf(picture)?.tray.retakes.includes(slot.id)) return;
    this.wish({ kind: 'retake-asked', slotId: slot.id }, `Retake of ${slot.name}`, picture.trayId);
  }
  retakeLast(): void {
    this.retake(this.store.pictures.at(-1) ?? null);
  }
  keepShown(takeId = this.shown?.pictureId): void {
    const slot = this.shownWell?.slot;
    if (slot && takeId && this.shown?.trayId)
      this.wish(
        { kind: 'keeper-chosen', slotId: slot.id, takeId },
        `Keeper of ${slot.name}`,
        this.shown.trayId
      );
  }
  move(takeId: string, slotId: string | null): void {
    if (!this.may().acquire) return;
    const from = wellOf(this.tray, takeId);
    const swaps =
      from && slotId !== null && this.tray.wells[slotId].takes.length > 0 && from.takes.length === 1;
    if (swaps && from.slot.id !== slotId)
      this.wish({ kind: 'slots-swapped', slotId: from.slot.id, otherSlotId: slotId }, 'Swapping two slots');
    else this.wish({ kind: 'take-moved', takeId, slotId }, 'Moving a take');
  }
  /** Drops a still; an exposure only goes to the bench. */
  drop(picture = this.shown): void {
    if (!picture?.trayId || !this.may().acquire) return;
    const takeId = picture.pictureId;
    if (picture.source === 'device') return this.move(takeId, null);
    this.picked = null;
    this.wish({ kind: 'take-dropped', takeId }, 'Dropping a still', picture.trayId);
  }
  /** Puts what lies on the bench where its places say that it belongs. */
  fill(): void {
    const takes = this.tray.bench.flatMap((takeId) => {
      const picture = this.store.picture(takeId);
      return picture ? [{ takeId, places: placesOf(picture) }] : [];
    });
    const empty = wellsAlong(this.tray).flatMap((well) => (well.takes.length === 0 ? [well.slot] : []));
    const moves = filledByAnatomy(takes, empty);
    if (moves.length > 0) this.wish({ kind: 'tray-filled', moves }, 'Filling the tray from the bench');
    else
      toast.info('Nothing on the bench is linked to a place that an empty slot shows.', {
        description: 'Link the pictures in File, or drag them to their slots.'
      });
  }

  turn(by: 'right' | 'mirror'): void {
    const { shown } = this;
    if (!shown || !this.may().changePictures) return;
    const now = orientationOf(shown);
    const body = by === 'mirror' ? mirrored(now) : turned(now, 1);
    this.done.push({ on: 'picture', pictureId: shown.pictureId });
    this.undone = [];
    void this.store.act(shown.pictureId, [{ kind: 'orientation', item: null, body }], 'Orientation');
  }

  /** Takes back what was done last here, on the tray or on a picture. */
  async takeBack(): Promise<void> {
    const last = this.done.pop() ?? { on: 'tray', trayId: this.front.trayId };
    this.undone.push(last);
    const answer =
      last.on === 'picture'
        ? await this.store.takeBack(last.pictureId)
        : await this.store.wish(last.trayId, { kind: 'take-back' }, 'Taking back');
    if ((answer as { done?: boolean } | null)?.done === false)
      toast.info('Nothing of yours is left to take back here.');
  }
  async bringBack(): Promise<void> {
    const last = this.undone.pop();
    if (!last) return;
    this.done.push(last);
    if (last.on === 'picture') await this.store.bringBack(last.pictureId);
    else await this.store.wish(last.trayId, { kind: 'bring-back' }, 'Bringing back');
  }
}

const withId = (slot: ProposedSlot): Slot => ({
  ...slot,
  id: `own-${crypto.randomUUID().slice(0, 8)}`,
  at: { x: 0.5, y: 0.5 }
});

const choosable = ({ deviceId, kind, lamp, armed }: DeviceView): Choosable => ({
  deviceId,
  kind,
  absent: lamp === 'absent',
  trayId: armed?.trayId ?? null
});
