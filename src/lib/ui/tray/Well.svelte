<script lang="ts">
  import type { Well } from '$core/tray/tray';
  import { type Notation, showTeeth } from '$core/anatomy/teeth';
  import { Anchor, Check } from '@lucide/svelte';
  import type { PictureView } from '$core/picture/pictureView';
  import { previewUrl } from '../previewUrl';
  import { takeDraggable, wellTarget } from './dragging';

  interface Props {
    well: Well;
    pictures: Map<string, PictureView>;
    notation: Notation;
    number: number;
    present: boolean;
    retake: boolean;
    anchored: boolean;
    shown: boolean;
    /** Little room: the teeth alone stand in the well. */
    small: boolean;
    onpick: () => void;
    ondroptake: (takeId: string) => void;
    ondropfiles: (files: File[]) => void;
  }
  let {
    well,
    pictures,
    notation,
    number,
    present,
    retake,
    anchored,
    shown,
    small,
    onpick,
    ondroptake,
    ondropfiles
  }: Props = $props();
  let over = $state(false);
  const keeper = $derived(well.keeper ? pictures.get(well.keeper) : undefined);
  const fan = $derived(well.takes.filter((id) => id !== well.keeper).slice(-2));
  const status = $derived(
    anchored
      ? 'anchored here'
      : retake
        ? 'to take again'
        : present
          ? 'next'
          : well.confirmedBy
            ? 'confirmed'
            : keeper
              ? 'taken'
              : 'empty'
  );
</script>

<button
  class="group relative block h-full w-full rounded-2xl text-left {over ? 'ring-coral ring-4' : ''}"
  onclick={onpick}
  aria-label="{well.slot.name}, {well.slot.projection}, {status}, {well.takes.length} takes"
  aria-pressed={shown}
  data-testid="well-{well.slot.id}"
  data-state={status}
  {@attach wellTarget({
    slotId: well.slot.id,
    over: (is) => (over = is),
    take: (id) => ondroptake(id),
    files: (files) => ondropfiles(files)
  })}
>
  {#each fan as takeId, i (takeId)}
    <span
      class="border-stage-edge bg-stage absolute top-1 right-1 h-[70%] w-[60%] overflow-hidden rounded-lg border"
      style="transform: rotate({(fan.length - i) * 5}deg) translate({(fan.length - i) * 7}px, -{(fan.length -
        i) *
        5}px)"
      aria-hidden="true"
    >
      {#if pictures.get(takeId)}<img
          src={previewUrl(pictures.get(takeId)!)}
          alt=""
          class="size-full object-cover opacity-80"
          draggable="false"
        />{/if}
    </span>
  {/each}
  <span
    class="absolute inset-0 flex flex-col overflow-hidden rounded-2xl {keeper
      ? 'bg-stage'
      : 'border-ink-soft/60 border-2 border-dashed bg-[color-mix(in_oklab,var(--well)_55%,var(--tray))]'} {present ||
    retake
      ? 'ring-coral ring-[5px]'
      : shown
        ? 'ring-ink ring-[3px]'
        : ''}"
    {@attach takeDraggable(well.keeper)}
  >
    {#if keeper}
      <img
        src={previewUrl(keeper)}
        alt=""
        class="absolute inset-0 size-full object-cover"
        draggable="false"
      />
      <span
        class="from-stage text-on-stage absolute inset-x-0 bottom-0 flex items-end justify-between gap-1 bg-linear-to-t to-transparent px-2.5 pt-5 pb-1.5"
      >
        <span class="text-small font-semibold">{showTeeth(well.slot.teeth, notation)}</span>
        {#if well.confirmedBy}<Check size={17} aria-hidden="true" />{/if}
      </span>
    {:else}
      <span class="text-ink m-auto text-center">
        {#if !small}<span class="text-body block font-bold">{well.slot.name}</span>{/if}
        <span class="text-small block {small ? 'font-bold' : ''}">{showTeeth(well.slot.teeth, notation)}</span
        >
      </span>
    {/if}
    {#if anchored}<Anchor size={18} class="text-coral absolute top-2 left-2" aria-hidden="true" />{/if}
  </span>
  <span
    class="text-small absolute -top-3 left-1/2 flex h-6 -translate-x-1/2 items-center rounded-full px-2 font-bold {present ||
    retake
      ? 'bg-coral text-on-fill'
      : 'bg-tray text-ink'}"
    aria-hidden="true">{number}{present ? ' next' : retake ? ' again' : ''}</span
  >
</button>
