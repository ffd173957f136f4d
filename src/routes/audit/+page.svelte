<script lang="ts">
  import { ShieldCheck, TriangleAlert } from '@lucide/svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { clockWords, dayWords } from '$ui/clock';

  let { data } = $props();
  const sound = $derived(data.check.wrong.length === 0);
</script>

<svelte:head><title>Audit · Yonder Tray</title></svelte:head>
<div class="flex h-screen flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
    <div class="panel flex items-center gap-3 px-5 py-3 {sound ? '' : 'bg-brass-wash!'}" role="status">
      {#if sound}<ShieldCheck class="text-lagoon" aria-hidden="true" />{:else}<TriangleAlert
          class="text-brass"
          aria-hidden="true"
        />{/if}
      <h1 class="text-lead font-bold">
        {sound
          ? `All ${data.check.lines} lines are whole: none was changed, none is missing.`
          : `Changed or missing: line ${data.check.wrong.slice(0, 8).join(', ')}.`}
      </h1>
    </div>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div class="panel min-h-0 flex-1 overflow-auto" tabindex="0" role="region" aria-label="Audit lines">
      <table class="text-small w-full">
        <thead class="bg-sheet sticky top-0 text-left"
          ><tr
            ><th class="py-2 pl-5">Line</th><th>When</th><th>Who</th><th>What</th><th>On</th><th class="pr-4"
              >More</th
            ></tr
          ></thead
        >
        <tbody>
          {#each data.lines as line (line.seq)}
            <tr class="border-rule/60 border-t">
              <td class="py-1.5 pl-5">{line.seq}</td>
              <td>{dayWords(line.at)} {clockWords(line.at)}</td>
              <td class="font-semibold">{line.who}</td>
              <td>{line.act}</td>
              <td class="text-ink-soft">{line.subject.slice(-12)}</td>
              <td class="text-ink-soft pr-4"
                >{Object.entries(line.details)
                  .filter(([, v]) => typeof v !== 'string' || v.length < 30)
                  .map(([k, v]) => `${k} ${v}`)
                  .join(', ')}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  </main>
</div>
