<script lang="ts">
  import { untrack } from 'svelte';
  import { ArrowRight, CircleCheck, FileText, X } from '@lucide/svelte';
  import { guides } from '$core/measurement/guides/all';
  import type { GuidePoints } from '$core/picture/layers/guide/guide';
  import type { Waiting } from '$core/picture/waiting';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { round } = $derived(table);
  const { current } = $derived(round);
  const left = $derived(round.waiting.length);

  const id = $derived(current?.id);
  // Once for each: what is put right meanwhile stays as it is on the table.
  $effect(() => {
    if (id) untrack(() => table.lookAt(current!));
  });

  function words({ items, set }: Waiting): string {
    if (set === null) return items.length === 1 ? items[0].name : `${items.length} readings`;
    const { guide: key, view: viewKey } = items[0].item.body as GuidePoints;
    const guide = guides.find((each) => each.key === key);
    const view = guide && guide.views.length > 1 && guide.views.find((each) => each.key === viewKey);
    return [guide?.name ?? 'A guide that this program does not have', view && view.name]
      .filter(Boolean)
      .join(': ');
  }
  const by = ({ items }: Waiting) =>
    [...new Set(items.map(({ item }) => (item.by ? table.picture!.people[item.by] : 'you')))]
      .filter(Boolean)
      .join(', ');
</script>

{#if round.on}
  <section
    class="border-coral flex flex-col gap-2 rounded-lg border-2 p-3"
    aria-label="What waits for a clinician"
    data-testid="round"
  >
    <div class="-mt-2 -mr-2 flex items-center justify-between">
      <p class="text-small text-ink-soft" role="status" data-testid="round-left">
        {left === 0 ? 'Nothing waits any more' : left === 1 ? 'The last that waits' : `${left} wait`}
      </p>
      <button class="button quiet px-2" onclick={() => round.end()} data-testid="round-end"
        ><X size={18} aria-hidden="true" />End</button
      >
    </div>
    {#if current}
      <p class="text-lead leading-tight font-bold" data-testid="round-what">{words(current)}</p>
      {#if by(current)}<p class="text-small text-ink-soft">prepared by {by(current)}</p>{/if}
      <div class="flex gap-1.5">
        <button class="button main flex-1 px-2" onclick={() => table.roundOn()} data-testid="round-confirm"
          ><CircleCheck size={18} aria-hidden="true" />Confirm<kbd class="text-small">3</kbd></button
        >
        <button class="button px-2" onclick={() => round.leaveForLater()} data-testid="round-later"
          ><ArrowRight size={18} aria-hidden="true" />Later<kbd class="text-small">4</kbd></button
        >
      </div>
    {:else if left === 0}
      <p class="text-lagoon flex items-center gap-1.5 font-semibold">
        <CircleCheck size={18} aria-hidden="true" />All of this visit is confirmed.
      </p>
      <a class="button" href="/visits/{table.picture!.visitId}/results" data-testid="round-results"
        ><FileText size={18} aria-hidden="true" />Results on a page</a
      >
      <a class="button" href="/">Today</a>
    {:else}
      <p>{left === 1 ? 'One was' : `${left} were`} left for later.</p>
      <button class="button" onclick={() => round.begin()}>Go through {left === 1 ? 'it' : 'them'}</button>
    {/if}
  </section>
{:else if left > 0}
  <button class="button" onclick={() => round.begin()} data-testid="round-begin"
    ><CircleCheck size={18} aria-hidden="true" />{left === 1 ? 'One waits' : `${left} wait`} for a clinician<kbd
      class="text-small ml-auto">3</kbd
    ></button
  >
{/if}
