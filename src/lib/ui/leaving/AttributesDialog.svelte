<script lang="ts">
  import { Plus, Undo2 } from '@lucide/svelte';
  import type { Change } from '$core/deidentify/deidentify';
  import type { LeavingPicture } from '$core/deidentify/leavingView';
  import { attributeName } from '$core/dicom/dictionary';
  import { sayable, unsayable } from '$core/dicom/said';
  import Choice from '../kit/Choice.svelte';
  import Combobox from '../kit/Combobox.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import { ask, attempt } from '../net/send';
  import { countWords } from '../words';
  import SaidValue from './SaidValue.svelte';

  interface Props {
    open: boolean;
    picture: LeavingPicture;
    /** What the picture is called. */
    name: string;
    /** As it goes with its identity: nothing of it is changed on leaving. */
    identified?: boolean;
    /** Something was said of it, or taken back. */
    onsaid: () => void;
  }
  let { open = $bindable(), picture, name, identified = false, onsaid }: Props = $props();
  const { changes, said } = $derived(picture);
  /** The attribute that is being typed, and the one that is being added. */
  let editing = $state<string | null>(null);
  let adding = $state<string | null>(null);
  let looking = $state(false);
  let wordsToAdd = $state('');
  const byHand = $derived(new Set(said?.map(({ tag }) => tag)));
  const there = $derived(new Set(changes.map(({ tag }) => tag)));
  const addable = $derived(
    sayable(wordsToAdd, there).map(({ tag, name }) => ({
      value: tag,
      words: name,
      detail: `${tag.slice(0, 4)},${tag.slice(4)}`
    }))
  );
  /** What is typed of an attribute stands there, or was given up. By then another may be typed already. */
  const done = (tag: string, kept: boolean) => {
    if (editing === tag) editing = null;
    if (adding === tag) adding = null;
    if (kept) onsaid();
  };
  /** As it is typed; values of several are shown with room between them. */
  const typedOf = ({ tag, before }: Change) =>
    said?.find((each) => each.tag === tag)?.text ?? before.replaceAll(' \\ ', '\\');
  async function takeBack(tag: string) {
    if (await attempt(() => ask(`/api/pictures/${picture.pictureId}/said`, { tag, text: null }))) onsaid();
  }
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
      .filter(({ what }) => !identified || what !== 'added')
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

<Dialog
  bind:open
  title={identified ? `All attributes of ${name}` : `All attributes of ${name}, before and after`}
  message={said
    ? 'It came without any: what stands here is proposed. Press a value to change it.'
    : undefined}
  wide
>
  <div class="mb-2 flex flex-wrap items-center gap-3">
    {#if !identified}
      <Choice label="Attributes shown" bind:value={only} options={kinds} testid="only" />
    {/if}
    <input
      type="search"
      class="border-rule bg-paper min-h-11 min-w-0 flex-1 rounded-lg border px-3"
      aria-label="Search the attributes"
      placeholder="Search"
      bind:value={words}
      data-testid="attribute-search"
    />
    <span class="text-small text-ink-soft" role="status"
      >{countWords(rows.length, 'attribute', 'attributes')}</span
    >
    {#if said}
      <button
        class="button text-small"
        aria-expanded={looking}
        onclick={() => (looking = !looking)}
        data-testid="add-attribute"><Plus size={18} aria-hidden="true" />Add</button
      >
    {/if}
  </div>
  {#if said && looking && !adding}
    <div class="mb-2">
      <Combobox
        label="Name or tag of an attribute to add"
        options={addable}
        bind:typed={wordsToAdd}
        nothing="No attribute that can be typed has this name or tag."
        testid="attribute-to-add"
        autofocus
        onchoose={(tag) => ([adding, looking, wordsToAdd] = [tag, false, ''])}
      />
    </div>
  {:else if adding}
    {@const tag = adding}
    <div class="mb-2 grid grid-cols-[30%_1fr] items-center gap-2">
      <span class="font-semibold">{attributeName(tag)}</span>
      <div>
        <SaidValue
          pictureId={picture.pictureId}
          {tag}
          name={attributeName(tag)}
          text=""
          ondone={(kept) => done(tag, kept)}
        />
      </div>
    </div>
  {/if}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div
    class="h-[55vh] scroll-pt-11 overflow-auto"
    tabindex="0"
    role="region"
    aria-label="Attributes before and after"
  >
    <table class="text-small w-full table-fixed">
      <thead class="bg-sheet sticky top-0 text-left">
        <tr>
          <th class="w-[30%] py-2">Attribute</th>
          {#if identified}
            <th class="py-2">Value</th>
          {:else}
            <th class="w-[29%] py-2">Before</th>
            <th class="w-[28%] py-2">After</th>
            <th class="w-[13%] py-2">What is done</th>
          {/if}
        </tr>
      </thead>
      <tbody>
        {#each rows as row (row.tag)}
          <tr class="border-rule/60 border-t align-top" data-testid="change-{row.what}">
            <td class="py-1.5 pr-2">
              <span class="font-semibold">{row.name}</span>
              <span class="text-ink-soft block">{row.tag.slice(0, 4)},{row.tag.slice(4)}</span>
            </td>
            <td class="py-1.5 pr-2 break-words">
              {#if editing === row.tag}
                <SaidValue
                  pictureId={picture.pictureId}
                  tag={row.tag}
                  name={row.name}
                  text={typedOf(row)}
                  ondone={(kept) => done(row.tag, kept)}
                />
              {:else if said && unsayable(row.tag) === null}
                <div class="flex items-start gap-2">
                  <button
                    class="flex min-h-11 min-w-0 items-start text-left break-all underline decoration-dotted underline-offset-4"
                    aria-label="Change {row.name}, now {row.before || 'empty'}"
                    onclick={() => (editing = row.tag)}
                    data-testid="say-{row.tag}">{row.before || 'empty'}</button
                  >
                  {#if byHand.has(row.tag)}
                    <button
                      class="button quiet text-small -mt-2 ml-auto min-h-11 shrink-0 px-2"
                      aria-label="Take back {row.name}, which was said by hand"
                      onclick={() => void takeBack(row.tag)}
                      data-testid="take-back-{row.tag}"><Undo2 size={16} aria-hidden="true" />by hand</button
                    >
                  {/if}
                </div>
              {:else}<span class={row.what === 'removed' ? 'line-through decoration-1' : ''}
                  >{row.before}</span
                >{/if}
            </td>
            {#if !identified}
              <td class="py-1.5 pr-2 font-semibold break-words">{row.after}</td>
              <td class="py-1.5 font-semibold {tones[row.what]}">{row.what}</td>
            {/if}
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</Dialog>
