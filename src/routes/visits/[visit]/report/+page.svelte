<script lang="ts">
  import { untrack } from 'svelte';
  import { FileDown, FolderInput, LoaderCircle, Printer } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import {
    leastAcross,
    mostAcross,
    type ReportChoice,
    inOrder,
    reportSections
  } from '$core/report/visitReport';
  import { resultsPaper } from '$core/report/resultsPaper';
  import { visitResults } from '$core/report/visitResults';
  import { clockWords, dateWords, dayWords } from '$ui/clock';
  import { tellRemarks } from '$ui/files/bringIn';
  import Choice from '$ui/kit/Choice.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import { type Refused, ask, attempt } from '$ui/net/send';
  import Sheets from '$ui/paper/Sheets.svelte';
  import { type MadeReport, fetchReport } from '$ui/report/fetchReport';
  import ReportParts from '$ui/report/ReportParts.svelte';
  import ShareWarning from '$ui/report/ShareWarning.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';
  import { countWords } from '$ui/words';

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
            trays: store.trays.map((each) => ({ ...each, seq: 0 })),
            pictures: store.pictures
          },
          results: resultsPaper(visitResults(store.standing, data.earlier), dayWords),
          notation: data.who!.notation,
          dateWords,
          momentWords: (at) => `${dayWords(at)}, ${clockWords(at)}`
        },
        choice
      ),
      choice.order
    )
  );

  let made = $state.raw<MadeReport | null>(null);
  let failed = $state.raw<Refused | null>(null);
  let making = $state(false);
  let sheets = $state(0);
  let going: AbortController | null = null;
  /** What stands on it, as far as it is kept: when that changes it is made anew. */
  const stamp = $derived(
    JSON.stringify([
      store.head.story.seq,
      store.pictures.map(({ pictureId, seq }) => [pictureId, seq]),
      store.trays.map(({ tray }) => tray.wells)
    ])
  );
  $effect(() => {
    void stamp;
    if (may) untrack(() => void make());
    return () => going?.abort();
  });

  async function make() {
    going?.abort();
    const mine = (going = new AbortController());
    making = true;
    const answer = await fetchReport(url, mine.signal);
    if (mine.signal.aborted) return;
    making = false;
    if ('refused' in answer) failed = answer.refused;
    else [made, failed] = [answer, null];
  }
  let keeping = Promise.resolve();
  function change(next: ReportChoice) {
    choice = next;
    // One after the other, so that the last one stays.
    keeping = keeping.then(async () => {
      if (await attempt(() => ask(url, next))) await make();
    });
  }

  const fileName = () =>
    `Report ${choice.names === 'full' ? patient.name : data.who!.clinicName} ${dayWords(store.head.openedAt)}.pdf`;
  const file = ({ bytes }: MadeReport) => new File([bytes.slice()], fileName(), { type: 'application/pdf' });

  let sharing = $state<'downloaded' | 'printed' | null>(null);
  async function share(way: 'downloaded' | 'printed') {
    const report = made;
    sharing = null;
    if (!report || !(await attempt(() => ask(`${url}/shared`, { way, warned: true })))) return;
    const address = URL.createObjectURL(file(report));
    if (way === 'printed') open(address, '_blank');
    else {
      const link = document.createElement('a');
      [link.href, link.download] = [address, fileName()];
      link.click();
    }
    // Whatever took it has it by then.
    setTimeout(() => URL.revokeObjectURL(address), 60_000);
  }
  let filing = $state(false);
  async function intoChart() {
    if (!made) return;
    filing = true;
    const paper = file(made);
    const answer = await store.addPaper(paper);
    filing = false;
    tellRemarks(paper.name, answer);
    if (answer) toast.success('The report lies with the papers of this visit.');
  }
  const across = Array.from({ length: mostAcross - leastAcross + 1 }, (_, i) => String(i + leastAcross));
</script>

<main class="grid min-h-0 flex-1 grid-cols-[25rem_1fr] gap-4 px-4 pb-4">
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
          <Choice
            label="The patient’s name"
            testid="names"
            small
            value={choice.names}
            options={[
              { value: 'initials', words: 'Initials' },
              { value: 'full', words: 'Full name' }
            ]}
            onchange={(names) => change({ ...choice, names })}
          />
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
  <section class="flex min-h-0 flex-col gap-3" aria-label="The report as it will be">
    <div class="flex min-h-11 items-center gap-2">
      <p class="text-ink-soft flex flex-1 items-center gap-2" role="status" data-testid="report-state">
        {#if making}<LoaderCircle size={18} class="animate-spin" aria-hidden="true" />The report is being made
          …
        {:else if made && sheets > 0}{countWords(sheets, 'sheet', 'sheets')} of A4, as it will be{/if}
      </p>
      {#if may}
        <button
          class="button"
          disabled={!made || making || filing}
          onclick={intoChart}
          data-testid="report-to-chart"><FolderInput size={18} aria-hidden="true" />Into the chart</button
        >
        <button
          class="button"
          disabled={!made || making}
          onclick={() => (sharing = 'printed')}
          data-testid="report-print"><Printer size={18} aria-hidden="true" />Print</button
        >
        <button
          class="button main"
          disabled={!made || making}
          onclick={() => (sharing = 'downloaded')}
          data-testid="report-download"><FileDown size={18} aria-hidden="true" />Download</button
        >
      {/if}
    </div>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div
      class="bg-tray min-h-0 flex-1 overflow-y-auto rounded-xl p-4"
      tabindex="0"
      role="region"
      aria-label="Sheets"
    >
      {#if failed}
        <p class="mx-auto mt-8 max-w-md text-center" role="alert">
          <span class="font-semibold">{failed.sentence}</span>
          {failed.next}
          <button class="button mx-auto mt-4" onclick={() => void make()}>Make it again</button>
        </p>
      {:else if made}
        <Sheets bytes={made.bytes} label="The report" onopened={(count) => (sheets = count)} />
      {:else if !may}
        <p class="mx-auto mt-8 max-w-md text-center">Whoever may send pictures can make a report.</p>
      {/if}
    </div>
  </section>
</main>

{#if made && sharing}
  <ShareWarning
    way={sharing}
    report={made}
    patient={patient.name}
    oncancel={() => (sharing = null)}
    onaccept={() => sharing && void share(sharing)}
  />
{/if}
