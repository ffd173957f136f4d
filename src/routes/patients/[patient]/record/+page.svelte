<script lang="ts">
  import { Eye, Pencil, Send, ShieldAlert, Trash2 } from '@lucide/svelte';
  import { type RecordKind, recordKinds } from '$core/people/recordWords';
  import { clockWords, dayWords } from '$ui/clock';
  import Choice from '$ui/kit/Choice.svelte';
  import Patient from '$ui/shell/Patient.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  const { patient, lines, older } = $derived(data.record);
  let kind = $state<'all' | RecordKind>('all');
  const words: Record<RecordKind, string> = {
    saw: 'Saw',
    changed: 'Changed',
    sent: 'Sent',
    removed: 'Moved or removed',
    other: 'Refused'
  };
  const icons = { saw: Eye, changed: Pencil, sent: Send, removed: Trash2, other: ShieldAlert } as const;
  const shown = $derived(kind === 'all' ? lines : lines.filter((line) => line.kind === kind));
  const days = $derived([...new Set(shown.map(({ at }) => dayWords(at)))]);
  const options = $derived([
    { value: 'all' as const, words: 'All' },
    ...recordKinds
      .filter((each) => lines.some((line) => line.kind === each))
      .map((each) => ({ value: each, words: words[each] }))
  ]);
</script>

<svelte:head><title>Record of {patient.name} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip>
    <Patient {patient} />
  </TopStrip>
  <main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
    <div class="flex flex-wrap items-center gap-x-6 gap-y-2">
      <div class="min-w-60 flex-1">
        <h1 class="text-title font-bold">Who did what with this chart</h1>
        <p class="text-small text-ink-soft">
          Each line was written as it happened, and can’t be altered unseen.
        </p>
      </div>
      <Choice label="Which acts" bind:value={kind} {options} testid="record-kind" />
    </div>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div
      class="panel min-h-0 flex-1 overflow-auto px-5 py-3"
      tabindex="0"
      role="region"
      aria-label="The record"
    >
      {#each days as day (day)}
        <h2 class="text-small text-ink-soft mt-3 mb-1 font-semibold first:mt-0">{day}</h2>
        <ul>
          {#each shown.filter(({ at }) => dayWords(at) === day) as line (line.seq)}
            {@const Icon = icons[line.kind]}
            <li class="border-rule/60 flex items-baseline gap-3 border-t py-1.5" data-testid="record-line">
              <span class="w-12 shrink-0 tabular-nums">{clockWords(line.at)}</span>
              <Icon size={16} class="text-ink-soft shrink-0 self-center" aria-hidden="true" />
              <span class="min-w-0 flex-1"
                ><span class="font-semibold">{line.who}</span>
                {line.words}{#if line.more}<span class="text-ink-soft">{` · ${line.more}`}</span>{/if}</span
              >
            </li>
          {/each}
        </ul>
      {:else}
        <p class="text-ink-soft">Nothing is written down as yet.</p>
      {/each}
    </div>
    <nav class="flex justify-between" aria-label="Pages of the record">
      <a class="button px-4" href="/patients/{patient.patientId}{data.newest ? '' : '/record'}"
        >{data.newest ? 'Back to the chart' : 'Newest lines'}</a
      >
      {#if older}<a class="button px-4" href="/patients/{patient.patientId}/record?before={older}"
          >Older lines</a
        >{/if}
    </nav>
  </main>
</div>
