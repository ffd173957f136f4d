<script lang="ts">
  import { Trash2 } from '@lucide/svelte';
  import { inWords } from '$core/measurement/inWords';
  import Tooltip from '../kit/Tooltip.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { edits, may } = $derived(table);
  const scale = $derived(edits.scale);
  const makers = $derived(table.tools.filter((tool) => tool.makes));
</script>

<section class="flex min-h-0 flex-1 flex-col gap-2">
  <h2 class="heading">Readings</h2>
  <ul class="flex flex-col gap-1.5">
    {#each edits.readings as { item, words, measured } (item.id)}
      <li
        class="flex items-center gap-2 rounded-lg border pl-3 {table.highlighted === item.id
          ? 'border-coral bg-coral-wash'
          : 'border-rule'}"
        onpointerenter={() => (table.highlighted = item.id)}
        onpointerleave={() => (table.highlighted = null)}
      >
        <span class="min-w-0 flex-1">
          <span class="text-small text-ink-soft block">{words}</span>
          <span class="text-lead block font-bold" data-testid="reading">{inWords(measured)}</span>
        </span>
        {#if may.changePictures}
          <Tooltip
            words="Remove {words.toLowerCase()}"
            button="flex size-11 items-center justify-center rounded-lg"
            onclick={() => edits.remove(item)}
          >
            <Trash2 size={18} aria-hidden="true" />
          </Tooltip>
        {/if}
      </li>
    {:else}
      <li class="text-ink-soft">
        {table.tool.makes
          ? 'Press once at each point, or drag from one to the next. By keys: arrows and Enter.'
          : 'Nothing is measured yet.'}
      </li>
    {/each}
  </ul>
  {#if may.changePictures && !table.tool.makes}
    <div class="flex gap-1.5">
      {#each makers as { id, words, icon: Icon }, i (id)}
        <button class="button flex-1 px-2 {i === 0 ? 'main' : ''}" onclick={() => table.takeUp(id)}
          ><Icon size={18} />{words}</button
        >
      {/each}
    </div>
  {/if}
</section>
<section class="border-rule text-small text-ink-soft border-t pt-3">
  {#if scale}
    <p>
      ± is two standard uncertainties: the scale’s and that of placing the points at the zoom they were placed
      at.
    </p>
    <p class="mt-1.5">Scale: {scale.description}.</p>
    {#if scale.source === 'detector'}
      <p class="text-brass mt-1.5 font-semibold">
        Lengths are at the detector; magnification is not in the ±. A known length in the picture mends that.
      </p>
    {/if}
  {:else}
    <p class="text-brass font-semibold">This picture has no scale, so lengths are in pixels.</p>
  {/if}
  {#if !scale && may.changePictures}<p class="mt-1.5">Give it one at the Scale station.</p>{/if}
</section>
