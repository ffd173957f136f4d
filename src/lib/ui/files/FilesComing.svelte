<script lang="ts">
  import { X } from '@lucide/svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { outbox } from '../net/outbox.svelte';

  let { lane }: { lane: string } = $props();
  const coming = $derived(
    outbox.changes.filter((change) => change.lane === lane && change.file !== null && change.keptAs === null)
  );
</script>

{#if coming.length > 0}
  <ul class="pointer-events-auto flex w-120 max-w-full flex-col gap-1.5" aria-label="Files coming in">
    {#each coming as each (each.key)}
      {@const sent = outbox.sent.get(each.key) ?? 0}
      {@const state = each.refused ? 'refused' : outbox.held === 'no' ? 'going' : 'waiting'}
      <li class="panel text-small flex items-start gap-2 px-3 py-2" data-testid="coming-{state}">
        <span class="min-w-0 flex-1">
          <span class="block font-semibold break-words">{each.words}</span>
          {#if each.refused}<span class="text-brass">{each.refused.sentence} {each.refused.next}</span>
          {:else if state === 'waiting'}<span class="text-brass">Waits until Yonder Tray answers.</span>
          {:else}
            <progress value={sent} class="h-1.5 w-full" aria-label="Sent of {each.words}"></progress>
            <span class="text-ink-soft">{sent < 1 ? `${Math.round(sent * 100)} % sent` : 'being opened'}</span
            >
          {/if}
        </span>
        {#if state === 'refused'}
          <button class="button px-3" onclick={() => void outbox.offerAgain(each.key)}>Try again</button>
        {/if}
        {#if state !== 'going'}
          <Tooltip
            words="Remove {each.words}"
            button="flex size-11 shrink-0 items-center justify-center rounded-lg"
            onclick={() => void outbox.remove(each.key)}><X size={18} aria-hidden="true" /></Tooltip
          >
        {/if}
      </li>
    {/each}
  </ul>
{/if}
