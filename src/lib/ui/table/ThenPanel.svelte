<script lang="ts">
  import {
    Columns2,
    Contrast,
    Eye,
    Link2,
    ScanSearch,
    SquareSplitHorizontal,
    Undo2,
    X
  } from '@lucide/svelte';
  import { projectionWords } from '$core/anatomy/projections';
  import { pictureName } from '$core/picture/pictureView';
  import { dayWords } from '../clock';
  import Choice from '../kit/Choice.svelte';
  import Switch from '../kit/Switch.svelte';
  import Small from '../pictures/Small.svelte';
  import type { LightTable } from './table.svelte';
  import { mostPairs } from './thenNow.svelte';

  let { table }: { table: LightTable } = $props();
  const { thenNow, places } = $derived(table);
  const { then, earlier, pairs } = $derived(thenNow);
  const fit = $derived(thenNow.fit(table.edits.scale));
  let byItself = $state(!matchMedia('(prefers-reduced-motion: reduce)').matches);
  const blinkMs = 900;

  $effect(() => {
    if (thenNow.mode !== 'blink' || !byItself || !thenNow.laid) return;
    const beat = setInterval(() => (thenNow.thenSeen = !thenNow.thenSeen), blinkMs);
    return () => clearInterval(beat);
  });
</script>

<section class="flex min-h-0 flex-col gap-3" aria-label="Then and now" data-testid="then-panel">
  <div class="flex items-center justify-between gap-2">
    <h2 class="heading">Then and now</h2>
    <button class="button quiet px-2" onclick={() => thenNow.close()} data-testid="then-close"
      ><X size={18} aria-hidden="true" />Close</button
    >
  </div>
  {#if thenNow.failed}<p class="text-small text-brass font-semibold" role="alert">{thenNow.failed}</p>{/if}
  {#if then}
    <Choice
      label="How the two are seen"
      stacked
      testid="then-mode"
      bind:value={thenNow.mode}
      disabled={!thenNow.laid}
      options={[
        { value: 'side', words: 'Side', icon: Columns2 },
        { value: 'slider', words: 'Slider', icon: SquareSplitHorizontal },
        { value: 'blink', words: 'Blink', icon: Eye },
        { value: 'difference', words: 'Change', icon: Contrast }
      ]}
    />
    {#if thenNow.mode === 'side'}
      <div class="flex items-center gap-2">
        <Link2 size={18} class="text-ink-soft" aria-hidden="true" />
        <Switch bind:checked={places.linked} words="Zoomed as one" testid="linked" />
      </div>
    {:else if thenNow.mode === 'blink'}
      <Switch bind:checked={byItself} words="By itself" />
      <button class="button" onclick={() => (thenNow.thenSeen = !thenNow.thenSeen)} data-testid="blink"
        >Show the {thenNow.thenSeen ? 'present' : 'earlier'} one</button
      >
    {/if}
    <div class="border-rule flex flex-col gap-2 border-t pt-3">
      <h3 class="font-semibold">Common points: {pairs.length} of {mostPairs}</h3>
      <p class="text-small text-ink-soft" data-testid="then-fit">
        {fit || 'Mark the same two to four places in both. Take hard edges that do not change, far apart.'}
      </p>
      {#if table.may.changePictures}
        {#if thenNow.wanted}
          <p class="text-brass font-semibold" role="status">
            Point {pairs.length + 1}: now in the {thenNow.wanted === 'then'
              ? 'earlier picture, left'
              : 'present one, right'}
          </p>
        {/if}
        {#if thenNow.someFound}
          <p class="text-small" data-testid="then-found">
            Points with a ? were found by the computer. Look at each in both, and drag what is off.
          </p>
        {/if}
        {#if thenNow.foundNothing}
          <p class="text-brass font-semibold" role="status">{thenNow.foundNothing}</p>
        {/if}
        {#if thenNow.searched !== null}
          <div class="flex items-center gap-2">
            <progress value={thenNow.searched} class="h-1.5 w-full" aria-label="Looking for common points"
            ></progress>
            <button class="button px-3" onclick={() => thenNow.stopFinding()}>Stop</button>
          </div>
        {:else if !thenNow.laid}
          <button class="button main" onclick={() => void thenNow.find()} data-testid="then-find"
            ><ScanSearch size={18} aria-hidden="true" />Find points</button
          >
        {/if}
        <div class="flex gap-2">
          {#if pairs.length < mostPairs}
            <button
              class="button flex-1 whitespace-nowrap {thenNow.wanted ? 'border-coral! bg-coral-wash!' : ''}"
              aria-pressed={thenNow.wanted !== null}
              onclick={() => {
                thenNow.placing = thenNow.wanted === null;
                thenNow.mode = 'side';
              }}
              data-testid="then-points">{thenNow.wanted ? 'Done' : 'Mark points'}</button
            >
          {/if}
          <button
            class="button px-3"
            disabled={!thenNow.canDrop}
            onclick={() => thenNow.dropLast()}
            data-testid="last-off"><Undo2 size={18} aria-hidden="true" />Last off</button
          >
        </div>
      {/if}
    </div>
  {/if}
  <div class="flex flex-col gap-1.5 {then ? 'border-rule border-t pt-3' : ''}">
    <h3 class="font-semibold">{then ? 'Another earlier one' : 'Earlier pictures of this place'}</h3>
    {#if earlier === null}
      {#if !thenNow.failed}<p class="text-ink-soft">Looking in the chart …</p>{/if}
    {:else}
      {#each earlier.filter(({ pictureId }) => pictureId !== then?.pictureId) as each (each.pictureId)}
        <button
          class="border-rule hover:bg-tray flex items-center gap-2 rounded-lg border p-1.5 text-left"
          onclick={() => thenNow.choose(each)}
          data-testid="earlier"
          data-picture={each.pictureId}
        >
          <Small picture={each} frame="h-14 w-18 shrink-0 rounded-md" lazy />
          <span class="leading-tight">
            <span class="block font-semibold">{dayWords(each.takenAt)}</span>
            <span class="text-small text-ink-soft block"
              >{pictureName(each)}{each.slot ? `, ${projectionWords(each.slot.projection)}` : ''}</span
            >
          </span>
        </button>
      {:else}
        <p class="text-ink-soft">
          {then ? 'There is no other.' : 'No earlier visit has a picture of what this one shows.'}
        </p>
      {/each}
    {/if}
  </div>
</section>
