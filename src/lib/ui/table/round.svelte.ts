import { SvelteSet } from 'svelte/reactivity';
import { confirmable } from '$core/picture/layers/confirmed/confirmed';
import type { PictureNow } from '$core/picture/guideSets';
import { type Waiting, waitingOn } from '$core/picture/waiting';
import type { VisitStore } from '../visit/visitStore.svelte';

/** A clinician goes through what waits in a visit, one after the other. */
export class Round {
  on = $state(false);
  private readonly later = new SvelteSet<string>();

  constructor(
    private readonly store: VisitStore,
    private readonly now: () => readonly PictureNow[]
  ) {}

  readonly waiting: Waiting[] = $derived.by(() => waitingOn(this.now()));
  /** What is looked at now; null once nothing is left, or all was left for later. */
  readonly current: Waiting | null = $derived.by(() =>
    this.on ? (this.waiting.find(({ id }) => !this.later.has(id)) ?? null) : null
  );

  begin(): void {
    this.later.clear();
    this.on = true;
  }
  end(): void {
    this.on = false;
  }
  /** Confirms what is looked at as it is now; the next comes by itself. */
  confirm(): void {
    const { current } = this;
    if (!current) return;
    void this.store.act(
      current.pictureId,
      current.items.map(({ item }) => ({
        kind: 'confirmed' as const,
        item: item.id,
        body: { as: confirmable(item.body) }
      })),
      'Confirmation'
    );
  }
  leaveForLater(): void {
    if (this.current) this.later.add(this.current.id);
  }
}
