<script lang="ts">
  import {
    type ReportChoice,
    inOrder,
    leastAcross,
    mostAcross,
    reportSections
  } from '$core/report/visitReport';
  import { resultsPaper } from '$core/report/resultsPaper';
  import { visitResults } from '$core/report/visitResults';
  import { dateWords, dayWords, momentWords } from '$ui/clock';
  import Choice from '$ui/kit/Choice.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import { ask, attempt } from '$ui/net/send';
  import { fetchPaper } from '$ui/report/fetchPaper';
  import NamesChoice from '$ui/report/NamesChoice.svelte';
  import PaperDesk from '$ui/report/PaperDesk.svelte';
  import ReportParts from '$ui/report/ReportParts.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  const may = $derived(data.who!.may.send);
  const { visitId, patient } = $derived(store.head);
  const url = $derived(`/api/visits/${visitId}/report`);

  // svelte-ignore state_referenced_locally
  let choice = $state.raw<ReportChoice>(data.choice);
  const sections = $derived(
    inOrder(
      reportSections(
        {
          visit: {
            ...store.head,
            trays: store.trays,
            pictures: store.pictures
          },
          results: resultsPaper(visitResults(store.standing, data.earlier, data.who!.language), dayWords),
          notation: data.who!.notation,
          language: data.who!.language,
          dateWords,
          momentWords
        },
        choice
      ),
      choice.order
    )
  );

  /** Of what stands on it, and of what was chosen as far as it is kept: when that changes it is made anew. */
  let kept = $state(0);
  const stamp = $derived(
    JSON.stringify([
      kept,
      store.head.story.seq,
      store.pictures.map(({ pictureId, seq }) => [pictureId, seq]),
      store.trays.map(({ tray }) => tray.wells)
    ])
  );
  let keeping = Promise.resolve();
  function change(next: ReportChoice) {
    choice = next;
    // One after the other, so that the last one stays.
    keeping = keeping.then(async () => {
      if (await attempt(() => ask(url, next))) kept += 1;
    });
  }
  const across = Array.from({ length: mostAcross - leastAcross + 1 }, (_, i) => String(i + leastAcross));
</script>

<PaperDesk
  what="report"
  called="This report"
  fileName="Report {choice.names === 'full' ? patient.name : data.who!.clinicName} {dayWords(
    store.head.openedAt
  )}"
  {may}
  {stamp}
  make={(signal) => fetchPaper(url, signal)}
>
  <section class="panel flex min-h-0 flex-col p-5" aria-label="What stands in the report">
    <h1 class="text-title mb-2 font-bold">Report of the visit</h1>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div class="-mx-1 min-h-0 flex-1 overflow-y-auto px-1" tabindex="0" role="region" aria-label="Its parts">
      <ReportParts {sections} {choice} {may} onchange={change} />
    </div>
    {#if may}
      <div class="border-rule mt-3 flex flex-col gap-1.5 border-t pt-3">
        <div class="flex items-center justify-between gap-3">
          <span>The patient</span>
          <NamesChoice small value={choice.names} onchange={(names) => change({ ...choice, names })} />
        </div>
        <div class="flex items-center justify-between gap-3">
          <span>Pictures side by side</span>
          <Choice
            label="Pictures side by side"
            testid="across"
            small
            value={String(choice.across)}
            options={across.map((value) => ({ value, words: value }))}
            onchange={(value) => change({ ...choice, across: Number(value) })}
          />
        </div>
        <Switch
          checked={choice.drawn}
          words="Readings and drawings on the pictures"
          testid="report-drawn"
          onchange={(drawn) => change({ ...choice, drawn })}
        />
      </div>
    {/if}
  </section>
</PaperDesk>
