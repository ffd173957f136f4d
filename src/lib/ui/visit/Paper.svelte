<script lang="ts">
  import type { Snippet } from 'svelte';
  import { ArrowLeft, FileDown, Printer } from '@lucide/svelte';
  import { page } from '$app/state';
  import { type PaperNames, paperHead } from '$core/report/paperHead';
  import { dayWords, todayAtClinic } from '../clock';
  import NamesChoice from '../report/NamesChoice.svelte';
  import { theVisit } from './visitStore.svelte';

  interface Props {
    /** Where it was opened from, and what that is called. */
    back: { href: string; words: string };
    testid: string;
    /** How the patient is named on it. */
    names: PaperNames;
    children: Snippet;
    /** What is said at the foot before who printed it and when. */
    foot: string;
    /** Where it is made as a PDF. */
    pdf?: string;
  }
  let { back, testid, names = $bindable(), children, foot, pdf }: Props = $props();
  const store = theVisit();
  const { patient, openedAt, room } = $derived(store.head);
  const head = $derived(paperHead(patient, names, todayAtClinic(), page.data.who!.language));
  const who = $derived(page.data.who!);
</script>

<main class="bg-tray min-h-0 flex-1 overflow-y-auto print:overflow-visible print:bg-white">
  <div class="mx-auto flex max-w-[210mm] items-center gap-2 py-3 print:hidden">
    <a class="button" href={back.href}><ArrowLeft size={18} aria-hidden="true" />{back.words}</a>
    <span class="flex-1"></span>
    <NamesChoice value={names} onchange={(chosen) => (names = chosen)} />
    {#if pdf}<a class="button" href="{pdf}?names={names}" download data-testid="as-pdf"
        ><FileDown size={18} aria-hidden="true" />PDF</a
      >{/if}
    <button class="button main" onclick={() => print()} data-testid="print"
      ><Printer size={18} aria-hidden="true" />Print</button
    >
  </div>
  <!-- Paper is white in every room. -->
  <article
    class="paper mx-auto mb-6 min-h-[297mm] max-w-[210mm] px-[18mm] py-[16mm] shadow-lg print:m-0 print:max-w-none print:p-0 print:shadow-none"
    data-testid={testid}
  >
    <header class="mb-4 flex items-end gap-4 border-b pb-2">
      <div class="flex-1">
        <h1 class="text-title font-bold" data-testid="{testid}-name">
          {head.title}
        </h1>
        <p>
          {head.about}
        </p>
      </div>
      <p class="text-right">
        <span class="block font-semibold">{who.clinicName}</span>
        {room} room, {dayWords(openedAt)}
      </p>
    </header>
    {@render children()}
    <p class="text-small mt-6 border-t pt-1">
      {foot}
      {who.name}, {dayWords(new Date().toISOString())}.
    </p>
  </article>
</main>

<style>
  .paper {
    background: #fff;
    color: #14211d;
    border-color: #9aa5a0;
  }
  .paper :global(*) {
    border-color: #9aa5a0;
  }
</style>
