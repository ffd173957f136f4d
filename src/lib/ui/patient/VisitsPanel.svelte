<script lang="ts">
  import { DoorOpen } from '@lucide/svelte';
  import { goto } from '$app/navigation';
  import type { Chart } from '$core/visit/chartView';
  import { dayWords } from '../clock';
  import Menu from '../kit/Menu.svelte';
  import { ask, attempt } from '../net/send';
  import { countWords } from '../words';

  let { chart, mayOpen }: { chart: Chart; mayOpen: boolean } = $props();

  function openVisit(roomId: string) {
    return attempt(async () => {
      const { patientId } = chart.patient;
      const { visitId } = await ask<{ visitId: string }>('/api/visits', { patientId, roomId });
      await goto(`/visits/${visitId}/acquire`);
    });
  }
</script>

<section class="panel flex max-h-60 flex-col p-4" aria-labelledby="visits">
  <div class="mb-1 flex items-center justify-between">
    <h2 id="visits" class="text-lead font-bold">Visits</h2>
    {#if mayOpen}
      <Menu
        label="Open a visit now in a room"
        items={chart.rooms.map(({ roomId, name }) => ({
          words: name,
          testid: 'open-visit-in',
          act: () => void openVisit(roomId)
        }))}
        button="button px-3"
        testid="open-visit"
      >
        {#snippet trigger()}<DoorOpen size={18} aria-hidden="true" />Open a visit{/snippet}
      </Menu>
    {/if}
  </div>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="min-h-0 overflow-y-auto" tabindex="0" role="region" aria-label="All visits">
    {#each chart.visits as visit (visit.visitId)}
      <a
        href="/visits/{visit.visitId}/acquire"
        class="hover:bg-tray flex min-h-11 items-center gap-3 rounded-lg px-2"
      >
        <span class="min-w-0 py-1 leading-tight">
          <span class="block font-semibold whitespace-nowrap"
            >{dayWords(visit.openedAt)}
            <span class="text-ink-soft font-normal">{visit.room}</span></span
          >
          {#if visit.reason}<span class="text-small text-ink-soft line-clamp-2">{visit.reason}</span>{/if}
        </span>
        <span class="text-small text-ink-soft ml-auto whitespace-nowrap"
          >{countWords(visit.pictureCount, 'picture', 'pictures')}</span
        >
      </a>
    {:else}<p class="text-ink-soft">No visit yet.</p>{/each}
  </div>
</section>
