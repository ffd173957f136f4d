<script lang="ts">
  import { Anchor, Check, TriangleAlert } from '@lucide/svelte';
  import { showPlaces } from '$core/anatomy/place';
  import { projectionWords } from '$core/anatomy/projections';
  import type { Notation } from '$core/anatomy/teeth';
  import { adviceInShort, standingAdvice } from '$core/picture/adviceView';
  import type { PictureView } from '$core/picture/pictureView';
  import type { Well } from '$core/tray/tray';
  import Small from '../pictures/Small.svelte';
  import { countWords } from '../words';
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
    /** Wide enough for the slot's name. */
    named: boolean;
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
    named,
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
          : well.confirmed
            ? 'confirmed'
            : keeper
              ? 'taken'
              : 'empty'
  );
  const active = $derived(present || retake);
  const advice = $derived(standingAdvice(keeper?.advice ?? null)[0] ?? null);
  const places = $derived(showPlaces(well.slot.places, notation));
</script>

<button
  class="group relative flex h-full w-full flex-col rounded-xl text-left {over ? 'ring-coral ring-4' : ''}"
  onclick={onpick}
  aria-label="{well.slot.name}, {projectionWords(well.slot.projection)}, {status}, {countWords(
    well.takes.length,
    'take',
    'takes'
  )}{advice ? `, advice: ${adviceInShort(advice)}` : ''}"
  aria-pressed={shown}
  title="{well.slot.name}, {places}"
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
      class="border-stage-edge absolute top-0 right-0 h-[60%] w-[70%] overflow-hidden rounded-lg border"
      style="transform: rotate({(fan.length - i) * 4}deg) translate({(fan.length - i) * 5}px, -{(fan.length -
        i) *
        4}px)"
      aria-hidden="true"
    >
      {#if pictures.get(takeId)}<Small picture={pictures.get(takeId)!} />{/if}
    </span>
  {/each}
  <span
    class="relative flex min-h-0 flex-1 flex-col overflow-hidden rounded-xl {keeper
      ? 'bg-sheet'
      : 'border-ink-soft/60 border-2 border-dashed bg-[color-mix(in_oklab,var(--well)_55%,var(--tray))]'} {active
      ? 'ring-coral ring-[4px]'
      : shown
        ? 'ring-ink ring-[3px]'
        : ''}"
    {@attach takeDraggable(well.keeper)}
  >
    {#if keeper}
      <span class="relative min-h-0 flex-1"><Small picture={keeper} /></span>
    {:else}
      <span
        class="text-ink flex min-h-0 flex-1 items-center justify-center px-1 text-center leading-tight font-bold"
      >
        {#if named}
          <span>
            <span class="text-body">{well.slot.name}</span>
            {#if well.slot.projection !== 'photograph'}
              <span class="text-small text-ink-soft block font-semibold">{places}</span>
            {/if}
          </span>
        {:else}<span class="text-small">{places}</span>{/if}
      </span>
    {/if}
    <span
      class="text-small flex h-6 shrink-0 items-center {named ? 'gap-1.5 pr-1.5' : 'pr-1'} whitespace-nowrap"
    >
      <span
        class="flex h-full items-center px-1.5 font-bold {active ? 'bg-coral text-on-fill' : 'text-ink-soft'}"
        >{number}{named && present ? ' next' : named && retake ? ' again' : ''}</span
      >
      {#if advice}
        <span
          class="text-brass flex min-w-0 flex-1 items-center gap-1 font-semibold"
          title={advice.description}
          data-testid="well-advice"
          ><TriangleAlert size={15} class="shrink-0" aria-hidden="true" />{#if named}<span class="truncate"
              >{adviceInShort(advice)}</span
            >{/if}</span
        >
      {:else}
        <span class="min-w-0 flex-1 truncate font-semibold">{named && keeper ? places : ''}</span>
      {/if}
      {#if anchored}<Anchor size={15} class="text-coral shrink-0" aria-hidden="true" />{/if}
      {#if well.confirmed}<Check size={16} class="text-lagoon shrink-0" aria-hidden="true" />{/if}
    </span>
  </span>
</button>
