<script lang="ts">
  import { isMarker } from '$core/picture/layers/scale/scale';
  import { CircleCheck } from '@lucide/svelte';
  import { readingWords } from '../writing';
  import { grouped, isReading } from '$core/picture/readings';
  import ReadingRow from './ReadingRow.svelte';
  import SayIt from './SayIt.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { edits, may } = $derived(table);
  const scale = $derived(edits.scale);
  const makers = $derived(table.tools.filter((tool) => tool.makes && !tool.family));
  const measured = $derived(
    edits.readings.filter(({ item }) => isReading(item.kind) && item.kind !== 'guide')
  );
  const drawn = $derived(edits.readings.filter(({ item }) => !isReading(item.kind)));
  const groups = $derived(grouped(measured));
  const open = $derived(measured.filter(({ confirmedBy }) => confirmedBy === null));
  const figure = (value: number) => value.toPrecision(3);
</script>

{#if table.unsaid}<SayIt {table} />{/if}
<section class="flex flex-col gap-2">
  <h2 class="heading">Readings</h2>
  <ul class="flex flex-col gap-1.5">
    {#each groups as { first, again, spread } (first.item.id)}
      <ReadingRow {table} reading={first} />
      {#each again as reading (reading.item.id)}<ReadingRow {table} {reading} repeat />{/each}
      {#if spread}
        {@const { value } = first.values[0]}
        <li class="text-small ml-4" data-testid="spread">
          <span class="font-semibold"
            >{spread.count} times: mean {readingWords({
              ...value,
              value: spread.mean,
              plusMinus: value.plusMinus
            }).split(' ±')[0]}</span
          ><span class="text-ink-soft"
            >, spread (one standard deviation) {figure(spread.standardDeviation)}; a change above {figure(
              spread.repeatability
            )} is more than chance</span
          >
        </li>
      {/if}
    {:else}
      <li class="text-ink-soft">
        {table.tool.makes
          ? 'Press once at each point, or drag from one to the next. By keys: arrows and Enter.'
          : 'Nothing is measured yet.'}
      </li>
    {/each}
  </ul>
  {#if may.confirm && open.length > 0}
    <button class="button" onclick={() => edits.confirm(open)} data-testid="confirm-readings"
      ><CircleCheck size={18} aria-hidden="true" />Confirm {open.length === 1
        ? 'this reading'
        : `all ${open.length}`}</button
    >
  {/if}
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
{#if drawn.length > 0}
  <section class="flex flex-col gap-2">
    <h2 class="heading">Drawings</h2>
    <ul class="flex flex-col gap-1.5">
      {#each drawn as reading (reading.item.id)}<ReadingRow {table} {reading} />{/each}
    </ul>
  </section>
{/if}
<section class="border-rule text-small text-ink-soft mt-auto border-t pt-3">
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
    {:else if isMarker(edits.layers.scale) && !edits.layers.scale.bone && table.boneMayLieElsewhere}
      <p class="text-brass mt-1.5 font-semibold">
        Nobody has said how high the bone lies: at Scale, below the marker.
      </p>
    {/if}
  {:else}
    <p class="text-brass font-semibold">This picture has no scale, so lengths are in pixels.</p>
  {/if}
  {#if !scale && may.changePictures}<p class="mt-1.5">Give it one at the Scale station.</p>{/if}
</section>
