<script lang="ts">
  import { FilePlus2, FileText, Pencil, Send, Trash2, Undo2, X } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import type { PaperChange } from '$core/papers/paper';
  import FilesComing from '../files/FilesComing.svelte';
  import { tellRemarks } from '../files/bringIn';
  import { momentWords } from '../clock';
  import Menu from '../kit/Menu.svelte';
  import SendPaper from '../report/SendPaper.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { outbox } from '../net/outbox.svelte';
  import { papersLane, theVisit } from '../visit/visitStore.svelte';
  import { byteWords, countWords } from '../words';

  interface Props {
    mayWrite: boolean;
    mayBringIn: boolean;
    maySend: boolean;
  }
  let { mayWrite, mayBringIn, maySend }: Props = $props();
  let sent = $state.raw<{ paperId: string; title: string } | null>(null);
  const store = theVisit();
  /** With what was done here and is still on its way. */
  const papers = $derived(
    store.head.story.papers.map((paper) => {
      const own = outbox.waiting.filter(({ url }) => url === `/api/papers/${paper.paperId}`);
      return own.reduce((shown, { body }) => {
        const change = body as PaperChange;
        return change.kind === 'named'
          ? { ...shown, title: change.title }
          : { ...shown, putAwayBy: change.kind === 'put away' ? 'here' : null };
      }, paper);
    })
  );
  const lying = $derived(papers.filter(({ putAwayBy }) => putAwayBy === null));
  const away = $derived(papers.filter(({ putAwayBy }) => putAwayBy !== null));

  let naming = $state<string | null>(null);
  let over = $state(false);
  let picker = $state<HTMLInputElement>();

  function lay(files: Iterable<File>) {
    for (const file of files) void store.addPaper(file).then((answer) => tellRemarks(file.name, answer));
  }
  function name(paperId: string, title: string, before: string) {
    naming = null;
    if (title.trim() === '' || title.trim() === before) return;
    void store.changePaper(paperId, { kind: 'named', title: title.trim() }, `The name of “${before}”`);
  }
  function putAway(paperId: string, title: string) {
    void store.changePaper(paperId, { kind: 'put away' }, `“${title}” put away`);
    toast.info(`“${title}” was put away.`, {
      action: { label: 'Bring back', onClick: () => bringBack(paperId, title) }
    });
  }
  const bringBack = (paperId: string, title: string) =>
    void store.changePaper(paperId, { kind: 'brought back' }, `“${title}” brought back`);
  const small = 'flex size-11 shrink-0 items-center justify-center rounded-lg';
  const focused = (input: HTMLInputElement) => input.select();
</script>

<section
  class="panel flex max-h-[42%] shrink-0 flex-col p-5 {over ? 'outline-coral outline-2 outline-dashed' : ''}"
  aria-labelledby="papers"
  ondragover={(event) => {
    if (!mayBringIn || !event.dataTransfer?.types.includes('Files')) return;
    event.preventDefault();
    over = true;
  }}
  ondragleave={() => (over = false)}
  ondrop={(event) => {
    event.preventDefault();
    over = false;
    if (mayBringIn) lay(event.dataTransfer?.files ?? []);
  }}
>
  <div class="mb-2 flex items-center gap-2">
    <h2 id="papers" class="text-title flex-1 font-bold">Its papers</h2>
    {#if away.length > 0 && mayWrite}
      <Menu
        label="Papers that were put away"
        button="button text-small px-3"
        testid="papers-away"
        items={away.map(({ paperId, title }) => ({
          words: `Bring back ${title}`,
          icon: Undo2,
          act: () => bringBack(paperId, title)
        }))}
      >
        {#snippet trigger()}<Trash2 size={16} aria-hidden="true" />Put away: {away.length}{/snippet}
      </Menu>
    {/if}
    {#if mayBringIn}
      <button class="button" onclick={() => picker?.click()} data-testid="lay-paper"
        ><FilePlus2 size={18} aria-hidden="true" />Bring in papers</button
      >
      <input
        bind:this={picker}
        type="file"
        accept="application/pdf,.pdf"
        multiple
        class="hidden"
        aria-label="PDF files"
        data-testid="paper-files"
        onchange={({ currentTarget }) => {
          lay(currentTarget.files ?? []);
          currentTarget.value = '';
        }}
      />
    {/if}
  </div>
  <FilesComing lane={papersLane(store.head.visitId)} />
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="min-h-0 overflow-y-auto" tabindex="0" role="region" aria-label="All papers">
    <ul class="flex flex-col gap-1.5" data-testid="papers">
      {#each lying as { paperId, title, pages, bytes, addedBy, addedAt } (paperId)}
        <li class="border-rule bg-sheet flex items-center gap-2 rounded-lg border py-1 pl-3">
          <FileText size={22} class="text-ink-soft shrink-0" aria-hidden="true" />
          <div class="min-w-0 flex-1">
            {#if naming === paperId}
              <input
                class="border-rule bg-paper min-h-11 w-full rounded-lg border px-3 font-semibold"
                value={title}
                maxlength={200}
                aria-label="Name of {title}"
                data-testid="paper-name"
                {@attach focused}
                onblur={({ currentTarget }) => name(paperId, currentTarget.value, title)}
                onkeydown={(event) => {
                  if (event.key === 'Enter') event.currentTarget.blur();
                  if (event.key !== 'Escape') return;
                  event.stopPropagation();
                  naming = null;
                }}
              />
            {:else}
              <a
                href="/api/papers/{paperId}"
                target="_blank"
                rel="noopener"
                class="flex min-h-11 flex-col justify-center leading-tight"
                data-testid="paper"
              >
                <span class="block font-semibold break-words underline">{title}</span>
                <span class="text-small text-ink-soft block"
                  >{countWords(pages, 'page', 'pages')}, {byteWords(bytes)} · {addedBy}, {momentWords(
                    addedAt
                  )}</span
                >
              </a>
            {/if}
          </div>
          {#if maySend}
            <Tooltip
              words="Send {title}"
              button={small}
              testid="send-paper"
              onclick={() => (sent = { paperId, title })}><Send size={18} aria-hidden="true" /></Tooltip
            >
          {/if}
          {#if mayWrite}
            <Tooltip
              words="Name {title}"
              button={small}
              testid="name-paper"
              onclick={() => (naming = paperId)}><Pencil size={18} aria-hidden="true" /></Tooltip
            >
            <Tooltip
              words="Put {title} away"
              button={small}
              testid="put-paper-away"
              onclick={() => putAway(paperId, title)}><X size={18} aria-hidden="true" /></Tooltip
            >
          {/if}
        </li>
      {:else}
        <li class="text-ink-soft">
          {mayBringIn
            ? 'Letters and reports (PDF) lie here. Drop them, or bring them in.'
            : 'No paper lies here.'}
        </li>
      {/each}
    </ul>
  </div>
</section>

<SendPaper
  bind:open={() => sent !== null, (open) => open || (sent = null)}
  title="Send {sent?.title}"
  paper={() => Promise.resolve(sent?.paperId ?? null)}
>
  <p>It goes as it lies here. Nobody looks through what stands in a paper: it may tell of a person.</p>
</SendPaper>
