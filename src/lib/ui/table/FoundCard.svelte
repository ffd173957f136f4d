<script lang="ts">
  import { Check, ScanSearch, X } from '@lucide/svelte';
  import type { GuideView } from '$core/measurement/guides/guide';
  import type { Guiding } from './guiding.svelte';

  interface Props {
    guiding: Guiding;
    view: GuideView;
  }
  let { guiding, view }: Props = $props();
  const found = $derived(Object.keys(guiding.proposed));
  const sharper = $derived(Object.entries(guiding.sharper));
  const nameOf = (key: string) => view.landmarks.find((each) => each.key === key)?.name ?? key;
  const percent = (share: number) => `${Math.round(100 * share)} %`;
</script>

<!-- What the computer found, hollow on the picture until somebody takes it. -->
{#if sharper.length > 0}
  <div class="border-rule flex flex-col gap-1.5 rounded-lg border p-3" role="status" data-testid="sharper">
    <p class="text-small">
      Beside where it was pressed something clearer lies (hollow):
      {sharper
        .slice(0, 3)
        .map(([key, { confidence }]) => `${nameOf(key)}, ${percent(confidence)} sure`)
        .join('; ')}{sharper.length > 3 ? ` and ${sharper.length - 3} more` : ''}.
    </p>
    <button
      class="button"
      onclick={() => guiding.accept(sharper.map(([key]) => key))}
      data-testid="take-sharper"
      ><Check size={18} aria-hidden="true" />{sharper.length === 1
        ? 'Put it there'
        : `Put all ${sharper.length} there`}</button
    >
  </div>
{/if}
{#if view.finds && (guiding.looking || found.length > 0 || !guiding.foundSome)}
  <div class="flex flex-col gap-1.5">
    {#if guiding.looking}
      <p class="text-small" role="status">Looking for {view.finds} …</p>
      <button class="button" onclick={() => guiding.stopFinding()}
        ><X size={18} aria-hidden="true" />Stop</button
      >
    {:else if found.length > 0}
      <button class="button main" onclick={() => guiding.accept()} data-testid="found-all"
        ><Check size={18} aria-hidden="true" />{found.length === 1
          ? 'Take the one that was found'
          : `Take all ${found.length} found`}</button
      >
      <p class="text-small text-ink-soft">Hollow rings: look at each. What is taken can be moved.</p>
    {:else if !guiding.foundSome}
      <button class="button" onclick={() => guiding.find()} data-testid="find-landmarks"
        ><ScanSearch size={18} aria-hidden="true" />Find {view.finds}</button
      >
    {/if}
    {#if guiding.foundNothing}<p class="text-small text-brass font-semibold" role="status">
        {guiding.foundNothing}
      </p>{/if}
  </div>
{/if}
