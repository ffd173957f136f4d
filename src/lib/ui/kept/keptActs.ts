import type { KeptOf } from '$core/picture/keptViews';
import type { KeptView } from '$core/picture/layers/kept/kept';
import type { VisitStore } from '../visit/visitStore.svelte';

/** Changes some kept views by as much, each in an act of its own, as each lies with its picture. */
export function changeKept(store: VisitStore, views: readonly KeptOf[], by: Partial<KeptView>): void {
  for (const { id, picture, kept } of views)
    void store.act(picture.pictureId, [{ kind: 'kept', item: id, body: { ...kept, ...by } }], 'Kept view');
}

export function dropKept(store: VisitStore, views: readonly KeptOf[]): void {
  for (const { id, picture } of views)
    void store.act(picture.pictureId, [{ kind: 'kept', item: id, body: null }], 'Kept view taken away');
}
