<script lang="ts">
  import { ArrowDown, ArrowUp, X } from '@lucide/svelte';
  import type { Snippet } from 'svelte';
  import { placesInWords } from '$core/anatomy/place';
  import type { Notation } from '$core/anatomy/teeth';
  import type { Slot } from '$core/tray/slot';
  import Tooltip from '../kit/Tooltip.svelte';

  interface Props {
    slot: Pick<Slot, 'name' | 'places'>;
    notation: Notation;
    /** Its place in the line, from 0, of how many. */
    at: number;
    of: number;
    /** What stands behind the places, such as how often it was taken. */
    detail?: string;
    drop: string;
    onmove: (by: number) => void;
    ondrop: () => void;
    children?: Snippet;
  }
  let { slot, notation, at, of, detail = '', drop, onmove, ondrop, children }: Props = $props();
  const small = 'flex size-11 items-center justify-center rounded-lg disabled:opacity-40';
</script>

<li class="border-rule bg-sheet rounded-lg border p-1.5 pl-3">
  <div class="flex items-center gap-1">
    <span class="text-ink-soft w-6 font-bold">{at + 1}</span>
    <span class="min-w-0 flex-1 leading-tight">
      <span class="block font-semibold">{slot.name}</span>
      <span class="text-small text-ink-soft"
        >{[placesInWords(slot.places, notation), detail].filter(Boolean).join(' · ')}</span
      >
    </span>
    <Tooltip words="{slot.name} earlier" button={small} disabled={at === 0} onclick={() => onmove(-1)}
      ><ArrowUp size={18} aria-hidden="true" /></Tooltip
    >
    <Tooltip words="{slot.name} later" button={small} disabled={at === of - 1} onclick={() => onmove(1)}
      ><ArrowDown size={18} aria-hidden="true" /></Tooltip
    >
    <Tooltip words={drop} button={small} onclick={ondrop}><X size={18} aria-hidden="true" /></Tooltip>
  </div>
  {#if children}{@render children()}{/if}
</li>
