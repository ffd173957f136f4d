<script lang="ts">
  import type { Change } from '$core/deidentify/deidentify';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import { countWords } from '../words';

  let { open = $bindable(), changes }: { open: boolean; changes: readonly Change[] } = $props();
  let only = $state<'all' | 'changed' | 'removed' | 'kept'>('all');
  let words = $state('');
  const kinds = [
    { value: 'all', words: 'All' },
    { value: 'changed', words: 'Changed' },
    { value: 'removed', words: 'Removed' },
    { value: 'kept', words: 'Kept' }
  ] as const;
  const wanted = $derived(words.trim().toLowerCase());
  const rows = $derived(
    changes
      .filter((row) =>
        only === 'all'
          ? true
          : only === 'changed'
            ? ['replaced', 'moved', 'emptied', 'cleaned', 'added'].includes(row.what)
            : row.what === only
      )
      .filter(
        ({ name, tag, before, after }) =>
          wanted === '' || [name, tag, before, after].some((text) => text.toLowerCase().includes(wanted))
      )
  );
  const tones: Record<Change['what'], string> = {
    kept: 'text-ink-soft',
    replaced: 'text-lagoon',
    moved: 'text-lagoon',
    emptied: 'text-lagoon',
    cleaned: 'text-lagoon',
    added: 'text-lagoon',
    removed: 'text-brass'
  };
</script>

<Dialog bind:open title="All attributes, before and after" wide>
  <div class="mb-2 flex flex-wrap items-center gap-3">
    <Choice label="Attributes shown" bind:value={only} options={kinds} testid="only" />
    <input
      type="search"
      class="border-rule bg-paper min-h-11 min-w-0 flex-1 rounded-lg border px-3"
      aria-label="Search the attributes"
      placeholder="Search names, tags and values"
      bind:value={words}
      data-testid="attribute-search"
    />
    <span class="text-small text-ink-soft" role="status"
      >{countWords(rows.length, 'attribute', 'attributes')}</span
    >
  </div>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="h-[55vh] overflow-auto" tabindex="0" role="region" aria-label="Attributes before and after">
    <table class="text-small w-full table-fixed">
      <thead class="bg-sheet sticky top-0 text-left">
        <tr>
          <th class="w-[30%] py-2">Attribute</th>
          <th class="w-[29%] py-2">Before</th>
          <th class="w-[28%] py-2">After</th>
          <th class="w-[13%] py-2">What is done</th>
        </tr>
      </thead>
      <tbody>
        {#each rows as row (row.tag)}
          <tr class="border-rule/60 border-t align-top" data-testid="change-{row.what}">
            <td class="py-1.5 pr-2">
              <span class="font-semibold">{row.name}</span>
              <span class="text-ink-soft block">{row.tag.slice(0, 4)},{row.tag.slice(4)}</span>
            </td>
            <td class="py-1.5 pr-2 break-words {row.what === 'removed' ? 'line-through decoration-1' : ''}"
              >{row.before}</td
            >
            <td class="py-1.5 pr-2 font-semibold break-words">{row.after}</td>
            <td class="py-1.5 font-semibold {tones[row.what]}">{row.what}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</Dialog>
