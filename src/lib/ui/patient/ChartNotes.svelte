<script lang="ts">
  import type { Chart } from '$core/visit/chartView';
  import { dayWords } from '../clock';
  import JoinedNotes from './JoinedNotes.svelte';

  let { chart, mayJoin }: { chart: Chart; mayJoin: boolean } = $props();
  const hasNotes = $derived(chart.joins.length + chart.onDesk.length + chart.moves.length > 0);
</script>

{#if hasNotes}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div
    class="max-h-28 shrink-0 overflow-y-auto"
    tabindex="0"
    role="region"
    aria-label="What happened to this chart"
  >
    <JoinedNotes patient={chart.patient} joins={chart.joins} {mayJoin} />
    {#each chart.onDesk as { at, by, reason } (at)}
      <p class="bg-brass-wash text-small mt-1.5 rounded-lg px-3 py-1.5" data-testid="on-desk">
        A picture was taken out of here to <a class="font-semibold underline" href="/arrivals">Arrivals</a>
        on {dayWords(at)}, by {by}: {reason}
      </p>
    {/each}
    {#each chart.moves as move (move.at)}
      <p class="bg-brass-wash text-small mt-1.5 rounded-lg px-3 py-1.5" data-testid="moved">
        {#if move.what === 'within'}A picture was moved to another visit of this chart
        {:else}
          A picture {move.what === 'left' ? 'was moved from here to' : 'came here from'}
          <a class="font-semibold underline" href="/patients/{move.patientId}"
            >{move.patient} ({move.recordNumber})</a
          >
        {/if} on {dayWords(move.at)}, by {move.by}: {move.reason}
      </p>
    {/each}
  </div>
{/if}
