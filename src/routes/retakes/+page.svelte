<script lang="ts">
  import { language } from '$ui/writing';
  import { goto } from '$app/navigation';
  import { gradeReasons } from '$core/picture/gradeReasons';
  import { type RetakeReason, type TallyBy, tally, tallyBy, unsaid } from '$core/retakes/tally';
  import StackedBars from '$ui/chart/StackedBars.svelte';
  import Choice from '$ui/kit/Choice.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  let by = $state<TallyBy>('month');
  const byWords: Record<TallyBy, string> = {
    month: 'By month',
    operator: 'By operator',
    device: 'By device',
    slot: 'By slot'
  };
  const mostRows = 16;
  const monthWords = new Intl.DateTimeFormat(language(), {
    month: 'short',
    year: 'numeric',
    timeZone: 'UTC'
  });
  const nameOf = (group: string) =>
    by === 'month' ? monthWords.format(new Date(`${group}-01T00:00:00Z`)) : group;

  const all = $derived(tally(data.takes, by));
  const rows = $derived(by === 'month' ? all : all.filter(({ retakes }) => retakes > 0).slice(0, mostRows));
  const total = $derived(data.takes.length);
  const again = $derived(data.takes.filter(({ retaken }) => retaken).length);
  const share = (retakes: number, takes: number) => (takes > 0 ? Math.round((100 * retakes) / takes) : 0);
  const reasons: readonly RetakeReason[] = [...gradeReasons, unsaid];
  const series = $derived(
    reasons
      .map((name) => ({ name, values: rows.map(({ reasons: of }) => of[name] ?? 0) }))
      .filter(({ values }) => values.some((value) => value > 0))
  );
</script>

<svelte:head><title>Retakes · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
    <div class="flex flex-wrap items-center gap-3 pt-1">
      <h1 class="text-title mr-2 font-bold">Retakes</h1>
      <p class="mr-auto" data-testid="share">
        <span class="text-title font-bold">{share(again, total)} %</span>
        <span class="text-ink-soft"
          >of {countWords(total, 'exposure', 'exposures')}: {countWords(again, 'was', 'were')} taken again</span
        >
      </p>
      <Choice
        label="Counted by"
        bind:value={by}
        testid="by"
        options={tallyBy.map((value) => ({ value, words: byWords[value] }))}
      />
      <Choice
        label="How far back"
        testid="months"
        value={String(data.months)}
        options={['3', '12', '24'].map((value) => ({ value, words: `${value} months` }))}
        onchange={(months) => void goto(`/retakes?months=${months}`, { keepFocus: true, noScroll: true })}
      />
    </div>
    {#if data.cut}
      <p class="bg-brass-wash text-brass rounded-lg px-3 py-2 font-semibold">
        There were more exposures than are counted at once: these are the newest.
      </p>
    {/if}
    <div class="flex min-h-0 flex-1 gap-4">
      <section class="panel min-w-0 flex-1 p-4" aria-label="Why pictures were taken again">
        {#if again > 0}
          <StackedBars
            labels={rows.map(({ group }) => nameOf(group))}
            {series}
            axis="Exposures taken again"
            lying={by !== 'month'}
            label="Why pictures were taken again, {byWords[by].toLowerCase()}; the figures stand in the table"
          />
        {:else}
          <p class="text-ink-soft flex h-full items-center justify-center">
            Nothing was taken again in this time.
          </p>
        {/if}
      </section>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="panel w-96 shrink-0 overflow-y-auto" tabindex="0" role="region" aria-label="The figures">
        <table class="w-full">
          <caption class="sr-only">Exposures and retakes {byWords[by].toLowerCase()}</caption>
          <thead class="bg-sheet sticky top-0">
            <tr class="border-rule text-small text-ink-soft border-b text-left">
              <th class="px-4 py-2 font-bold" scope="col"><span class="capitalize">{by}</span></th>
              <th class="px-2 py-2 text-right font-bold" scope="col">Taken</th>
              <th class="px-2 py-2 text-right font-bold" scope="col">Again</th>
              <th class="px-4 py-2 text-right font-bold" scope="col">Share</th>
            </tr>
          </thead>
          <tbody>
            {#each all as row (row.group)}
              <tr class="border-rule/60 border-b" data-testid="tally">
                <th class="px-4 py-1.5 text-left leading-tight font-semibold" scope="row"
                  >{nameOf(row.group)}</th
                >
                <td class="px-2 py-1.5 text-right">{row.takes}</td>
                <td class="px-2 py-1.5 text-right">{row.retakes}</td>
                <td class="px-4 py-1.5 text-right">{share(row.retakes, row.takes)} %</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    </div>
  </main>
</div>
