<script lang="ts">
  import type { Snippet } from 'svelte';
  import { FilePlus2, Trash2, Undo2 } from '@lucide/svelte';
  import type { Notation } from '$core/anatomy/teeth';
  import { type PictureView, pictureName } from '$core/picture/pictureView';
  import { type Tray, wellsAlong } from '$core/tray/tray';
  import Menu from '../kit/Menu.svelte';
  import Small from '../pictures/Small.svelte';
  import { takeDraggable, wellTarget } from './dragging';
  import { layWells, placedSlots } from '$core/tray/layout';
  import { routePath } from './routePath';
  import Well from './Well.svelte';

  interface Props {
    tray: Tray;
    /** Brings a dropped still back to the bench. */
    onbring?: (takeId: string) => void;
    pictures: PictureView[];
    notation: Notation;
    shown: string | null;
    mayBringIn: boolean;
    onpick: (slotId: string) => void;
    onpicktake: (takeId: string) => void;
    onmove: (takeId: string, slotId: string | null) => void;
    /** Puts what lies on the bench where it belongs. */
    onfill?: () => void;
    /** Stands beside the bench's name. */
    beside?: Snippet;
    onfiles: (files: File[], slotId: string | null) => void;
  }
  let {
    tray,
    pictures,
    notation,
    shown,
    mayBringIn,
    onpick,
    onpicktake,
    onmove,
    onfill,
    onbring,
    beside,
    onfiles
  }: Props = $props();
  let benchOver = $state(false);
  let picker = $state<HTMLInputElement>();
  let width = $state(0);
  let height = $state(0);
  const byId = $derived(new Map(pictures.map((picture) => [picture.pictureId, picture])));
  const wells = $derived(wellsAlong(tray));
  const frames = $derived(layWells(placedSlots(wells), { width, height }));
  /** From this width on a well has room for its slot's name. */
  const namedPx = 104;
  const path = $derived(routePath(frames));
</script>

<section aria-label="Tray" class="flex h-full gap-3">
  <div
    class="border-rule bg-tray relative min-w-0 flex-1 overflow-hidden rounded-[2.2rem] border"
    bind:clientWidth={width}
    bind:clientHeight={height}
  >
    {#if wells.length === 0}
      <p class="text-ink-soft flex h-full items-center justify-center px-6 text-center">
        This tray has no pattern. Lay one, drop pictures on the bench, or bring in files.
      </p>
    {/if}
    {#if width > 0}
      <svg class="pointer-events-none absolute inset-0 h-full w-full" aria-hidden="true">
        <path d={path} fill="none" class="stroke-ink-soft/60" stroke-width="2" />
      </svg>
      {#each wells as well, i (well.slot.id)}
        {@const frame = frames[i]}
        <div
          class="absolute"
          style="left: {frame.left}px; top: {frame.top}px; width: {frame.width}px; height: {frame.height}px"
        >
          <Well
            {well}
            pictures={byId}
            {notation}
            number={i + 1}
            present={tray.present === well.slot.id}
            retake={tray.retakes.includes(well.slot.id) && tray.present !== well.slot.id}
            anchored={tray.anchored && tray.present === well.slot.id}
            named={frame.width >= namedPx}
            shown={shown !== null && well.takes.includes(shown)}
            onpick={() => onpick(well.slot.id)}
            ondroptake={(takeId) => onmove(takeId, well.slot.id)}
            ondropfiles={(files) => onfiles(files, well.slot.id)}
          />
        </div>
      {/each}
    {/if}
  </div>
  <div
    class="border-rule bg-sheet flex w-52 shrink-0 flex-col gap-2 rounded-2xl border p-3 {benchOver
      ? 'ring-coral ring-4'
      : ''}"
    role="group"
    aria-label="Bench"
    data-testid="bench"
    {@attach wellTarget({
      slotId: null,
      over: (is) => (benchOver = is),
      take: (id) => onmove(id, null),
      files: (files) => onfiles(files, null)
    })}
  >
    <div class="-mt-1.5 -mr-1.5 flex items-center">
      <h2 class="heading mr-auto">Bench</h2>
      {@render beside?.()}
    </div>
    <div class="flex min-h-0 flex-1 flex-wrap content-start gap-2 overflow-y-auto p-1">
      {#each tray.bench as takeId (takeId)}
        {@const picture = byId.get(takeId)}
        {#if picture}
          <button
            class="h-15 w-20 overflow-hidden rounded-lg {shown === takeId ? 'ring-ink ring-[3px]' : ''}"
            onclick={() => onpicktake(takeId)}
            aria-label="On the bench: {pictureName(picture)}"
            title={pictureName(picture)}
            data-testid="bench-take"
            {@attach takeDraggable(takeId)}
          >
            <Small {picture} />
          </button>
        {/if}
      {:else}
        <p class="text-small text-ink-soft">Takes in no slot lie here. Drop files here or on a slot.</p>
      {/each}
    </div>
    <input
      bind:this={picker}
      type="file"
      multiple
      accept=".dcm,.dicom,.png,.jpg,.jpeg,.tif,.tiff,application/dicom,image/png,image/jpeg,image/tiff"
      class="sr-only"
      tabindex="-1"
      aria-label="Files to bring in"
      data-testid="file-picker"
      onchange={(event) => {
        onfiles([...(event.currentTarget.files ?? [])], null);
        event.currentTarget.value = '';
      }}
    />
    {#if onbring && tray.dropped.length > 0}
      <Menu
        label="Dropped stills"
        button="button text-small w-full px-2"
        testid="dropped"
        items={tray.dropped.flatMap((takeId) => {
          const still = byId.get(takeId);
          return still
            ? [{ words: `Bring back ${pictureName(still)}`, icon: Undo2, act: () => onbring(takeId) }]
            : [];
        })}
      >
        {#snippet trigger()}<Trash2 size={16} aria-hidden="true" />Dropped: {tray.dropped.length}{/snippet}
      </Menu>
    {/if}
    <div class="flex gap-1.5">
      {#if onfill && tray.bench.length > 0 && tray.route.length > 0}
        <button
          class="button text-small flex-1 px-1"
          onclick={onfill}
          aria-label="Into their slots"
          title="Puts what lies here into the slots that show its places"
          data-testid="fill">To slots</button
        >
      {/if}
      <button
        class="button flex-1 px-1 {tray.bench.length > 0 ? 'text-small' : ''}"
        onclick={() => picker?.click()}
        disabled={!mayBringIn}
        aria-label="Bring in files"
        ><FilePlus2 size={18} class="shrink-0" aria-hidden="true" />{tray.bench.length > 0 && onfill
          ? 'Files'
          : 'Bring in files'}</button
      >
    </div>
  </div>
</section>
