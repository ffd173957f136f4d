<script lang="ts">
  import { type Snippet, untrack } from 'svelte';
  import { FileDown, FolderInput, LoaderCircle, Printer, Send } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { type Refused, ask, attempt } from '../net/send';
  import Sheets from '../paper/Sheets.svelte';
  import { theVisit } from '../visit/visitStore.svelte';
  import { countWords } from '../words';
  import type { MadePaper } from './fetchPaper';
  import PaperWarnings from './PaperWarnings.svelte';
  import SendPaper from './SendPaper.svelte';
  import ShareWarning from './ShareWarning.svelte';

  /** What a paper is made of at the left, and at the right the paper as it will be, with what can be done with it. */
  interface Props {
    what: 'report' | 'print' | 'letter';
    /** What it is called where it is spoken of: "This report", and as a file, without its ending. */
    called: string;
    fileName: string;
    may: boolean;
    /** Made anew whenever this changes. */
    stamp: string;
    make: (signal: AbortSignal) => Promise<MadePaper | { refused: Refused }>;
    /** Said in place of sheets where there is nothing to make. */
    nothing?: string;
    /** The destination that is proposed where it is sent. */
    usual?: string;
    /** What can be done with it, where that is not what is done with paper: with what was made, and how many sheets it has. */
    away?: Snippet<[MadePaper | null, number]>;
    /** What a sheet of it is called. */
    sheetWords?: [one: string, more: string];
    children: Snippet;
  }
  let {
    what,
    called,
    fileName,
    may,
    stamp,
    make,
    nothing = '',
    usual = '',
    away,
    sheetWords = ['sheet', 'sheets'],
    children
  }: Props = $props();
  const store = theVisit();
  const { visitId, patient } = $derived(store.head);

  let made = $state.raw<MadePaper | null>(null);
  let failed = $state.raw<Refused | null>(null);
  let making = $state(false);
  let sheets = $state(0);
  let going: AbortController | null = null;
  $effect(() => {
    void stamp;
    if (may && nothing === '') untrack(() => void makeNow());
    return () => going?.abort();
  });

  async function makeNow() {
    going?.abort();
    const mine = (going = new AbortController());
    making = true;
    const answer = await make(mine.signal);
    if (mine.signal.aborted) return;
    making = false;
    if ('refused' in answer) failed = answer.refused;
    else [made, failed] = [answer, null];
  }

  const ready = $derived(made !== null && !making && failed === null && nothing === '');
  const file = ({ bytes }: MadePaper) =>
    new File([bytes.slice()], `${fileName}.pdf`, { type: 'application/pdf' });
  type Way = 'downloaded' | 'printed';
  let sharing = $state<Way | null>(null);
  async function share(way: Way) {
    const paper = made;
    sharing = null;
    if (!paper) return;
    const wish = { what, way, names: paper.names, warned: true };
    if (!(await attempt(() => ask(`/api/visits/${visitId}/shared`, wish)))) return;
    const address = URL.createObjectURL(file(paper));
    if (way === 'printed') open(address, '_blank');
    else {
      const link = document.createElement('a');
      [link.href, link.download] = [address, `${fileName}.pdf`];
      link.click();
    }
    // Whatever took it has it by then.
    setTimeout(() => URL.revokeObjectURL(address), 60_000);
  }
  let filing = $state(false);
  let sending = $state(false);
  /** Lays it with the papers of the visit; the same one is laid there once. Gives back which paper it is there. */
  async function laid(): Promise<string | null> {
    if (!made) return null;
    filing = true;
    const answer = await store.addPaper(file(made));
    filing = false;
    return (answer?.paperId as string | undefined) ?? null;
  }
  async function intoChart() {
    if (await laid()) toast.success('It lies with the papers of this visit.');
  }
</script>

{#snippet download()}
  <button
    class="button {what === 'print' ? '' : 'main'}"
    disabled={!ready}
    onclick={() => (sharing = 'downloaded')}
    data-testid="paper-download"><FileDown size={18} aria-hidden="true" />Download</button
  >
{/snippet}
{#snippet print()}
  <button
    class="button {what === 'print' ? 'main' : ''}"
    disabled={!ready}
    onclick={() => (sharing = 'printed')}
    data-testid="paper-print"><Printer size={18} aria-hidden="true" />Print</button
  >
{/snippet}

<main class="grid min-h-0 flex-1 grid-cols-[25rem_1fr] gap-4 px-4 pb-4">
  {@render children()}
  <section class="flex min-h-0 flex-col gap-3" aria-label="{called}, as it will be">
    <div class="flex min-h-11 items-center gap-2">
      <p class="text-ink-soft flex flex-1 items-center gap-2" role="status" data-testid="paper-state">
        {#if making}<LoaderCircle size={18} class="animate-spin" aria-hidden="true" />It is being made …
        {:else if ready && sheets > 0}{countWords(sheets, ...sheetWords)}, as it will be{/if}
      </p>
      {#if may && away}
        {@render away(ready ? made : null, sheets)}
      {:else if may}
        <button class="button" disabled={!ready || filing} onclick={intoChart} data-testid="paper-to-chart"
          ><FolderInput size={18} aria-hidden="true" />Into the chart</button
        >
        <button
          class="button"
          disabled={!ready || filing}
          onclick={() => (sending = true)}
          data-testid="paper-send-to"><Send size={18} aria-hidden="true" />Send</button
        >
        <!-- What this paper is mostly for comes last. -->
        {#if what === 'print'}{@render download()}{@render print()}{:else}{@render print()}{@render download()}{/if}
      {/if}
    </div>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div
      class="bg-tray min-h-0 flex-1 overflow-y-auto rounded-xl p-4"
      tabindex="0"
      role="region"
      aria-label="Sheets"
    >
      {#if !may}
        <p class="mx-auto mt-8 max-w-md text-center">Whoever may send pictures can make this.</p>
      {:else if nothing}
        <p class="mx-auto mt-8 max-w-md text-center">{nothing}</p>
      {:else if failed}
        <div class="mx-auto mt-8 max-w-md text-center" role="alert" data-testid="paper-failed">
          <p class="font-semibold">{failed.sentence}</p>
          <p>{failed.next}</p>
          <button class="button mx-auto mt-4" onclick={() => void makeNow()}>Make it again</button>
        </div>
      {:else if made}
        <Sheets bytes={made.bytes} label={called} onopened={(count) => (sheets = count)} />
      {/if}
    </div>
  </section>
</main>

{#if made}
  {@const paper = made}
  <SendPaper bind:open={sending} title="{called} tells of a person" paper={laid} {usual}>
    <PaperWarnings {paper} patient={patient.name} />
    <p class="text-small text-ink-soft">It is laid with the papers of this visit, and sent from there.</p>
  </SendPaper>
{/if}
{#if made && sharing}
  <ShareWarning
    way={sharing}
    paper={made}
    what={called}
    patient={patient.name}
    oncancel={() => (sharing = null)}
    onaccept={() => sharing && void share(sharing)}
  />
{/if}
