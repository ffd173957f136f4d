<script lang="ts">
  import { ArrowDown, ArrowUp } from '@lucide/svelte';
  import { untrack } from 'svelte';
  import type { CaseEntry, CaseView, CaseWords } from '$core/shelf/teachingCase';
  import Dialog from '../kit/Dialog.svelte';
  import Tick from '../kit/Tick.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import CaseFields from './CaseFields.svelte';
  import { CaseKeeping } from './caseKeeping.svelte';
  import NameFound from './NameFound.svelte';

  interface Props {
    open: boolean;
    opened: CaseView;
    onkept: () => void;
  }
  let { open = $bindable(), opened, onkept }: Props = $props();
  let words = $state<CaseWords>(newWords());
  let order = $state.raw<{ entry: CaseEntry; kept: boolean }[]>([]);
  const keeping = new CaseKeeping();

  function newWords(): CaseWords {
    return structuredClone($state.snapshot(opened.words) as CaseWords);
  }
  // What is news of the case while somebody writes leaves what they write alone.
  $effect(() => {
    if (!open) return;
    untrack(() => {
      words = newWords();
      order = opened.entries.map((each) => ({ entry: each, kept: !each.dropped }));
      keeping.found = '';
    });
  });
  function moveTo(from: number, to: number) {
    if (to < 0 || to >= order.length) return;
    const next = [...order];
    next.splice(to, 0, ...next.splice(from, 1));
    order = next;
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const kept = await keeping.keep(`/api/cases/${opened.caseId}`, {
      act: 'write',
      words: $state.snapshot(words),
      order: order.filter((each) => each.kept).map((each) => each.entry.entryId)
    });
    if (!kept) return;
    open = false;
    onkept();
  }
</script>

<Dialog bind:open title="Change case {opened.number}" wide>
  <form class="flex flex-col gap-3" onsubmit={keep}>
    <CaseFields bind:words />
    <div>
      <span class="mb-1 block font-semibold">Pictures, in their order</span>
      <ul class="flex flex-col gap-1">
        {#each order as each, i (each.entry.entryId)}
          <li class="border-rule flex items-center gap-2 rounded-lg border pr-1" data-testid="case-order">
            <Tick
              checked={each.kept}
              label="{each.entry.title} is shown"
              onchange={(kept) => (order = order.map((other, at) => (at === i ? { ...other, kept } : other)))}
            />
            <span class="min-w-0 flex-1 truncate {each.kept ? '' : 'text-ink-soft line-through'}"
              >{each.entry.title || 'A picture'}</span
            >
            <Tooltip
              words="Up"
              button="flex size-11 items-center justify-center"
              onclick={() => moveTo(i, i - 1)}><ArrowUp size={18} aria-hidden="true" /></Tooltip
            >
            <Tooltip
              words="Down"
              button="flex size-11 items-center justify-center"
              onclick={() => moveTo(i, i + 1)}><ArrowDown size={18} aria-hidden="true" /></Tooltip
            >
          </li>
        {/each}
      </ul>
    </div>
    <NameFound {keeping} />
    <button
      class="button main self-end"
      disabled={words.title.trim() === '' || !order.some((each) => each.kept) || keeping.busy}
      data-testid="keep-case-change">Keep it</button
    >
  </form>
</Dialog>
