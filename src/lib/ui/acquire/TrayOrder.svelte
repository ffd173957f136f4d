<script lang="ts">
  import { Route } from '@lucide/svelte';
  import type { Notation } from '$core/anatomy/teeth';
  import { shifted } from '$core/tray/route';
  import { type Tray, wellsAlong } from '$core/tray/tray';
  import { countWords } from '../words';
  import type { PatternChoice } from './patternChoice';
  import SlotRow from './SlotRow.svelte';

  interface Props {
    tray: Tray;
    /** The routes that are known through its pattern. */
    routes: PatternChoice['routes'];
    notation: Notation;
    onorder: (order: string[]) => void;
    ondrop: (slotId: string) => void;
  }
  let { tray, routes, notation, onorder, ondrop }: Props = $props();
  const wells = $derived(wellsAlong(tray));
  const words = { usual: 'Along the usual route', mine: 'Along my own route' };
  const others = $derived(
    routes.filter(
      ({ order }) => order.filter((id) => tray.wells[id]).join() !== tray.route.slice(0, order.length).join()
    )
  );
</script>

<div class="mt-3">
  <div class="mb-2 flex flex-wrap items-center gap-2">
    <p class="text-ink-soft min-w-0 flex-1">
      What is taken stays in its slot. A slot that is left out lays its takes on the bench.
    </p>
    {#each others as { whose, order } (whose)}
      <button class="button" onclick={() => onorder([...order])} data-testid="route-{whose}"
        ><Route size={18} aria-hidden="true" />{words[whose]}</button
      >
    {/each}
  </div>
  <ol class="grid max-h-96 grid-cols-2 gap-1.5 overflow-y-auto" data-testid="tray-order">
    {#each wells as { slot, takes }, i (slot.id)}
      <SlotRow
        {slot}
        {notation}
        at={i}
        of={wells.length}
        detail={slot.id === tray.present
          ? 'next'
          : takes.length > 0
            ? countWords(takes.length, 'take', 'takes')
            : ''}
        drop="Leave out {slot.name}"
        onmove={(by) => onorder(shifted(tray.route, i, by))}
        ondrop={() => ondrop(slot.id)}
      />
    {/each}
  </ol>
</div>
