<script lang="ts">
  import { Trash2 } from '@lucide/svelte';
  import type { CategoryRule } from '$core/picture/categoryRule';
  import { type Category, type PictureKind, pictureKinds } from '$core/picture/pictureView';
  import { type Projection, projectionNames, projectionWords } from '$core/anatomy/projections';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';
  import { kindWords } from '../pictures/listedWords';

  interface Ruled extends Category {
    rule: CategoryRule | null;
  }
  interface Props {
    categories: readonly Ruled[];
    /** Devices that pictures come from. */
    devices: readonly string[];
    mayChange?: boolean;
    onchanged: () => Promise<void> | void;
  }
  let { categories, devices, mayChange = true, onchanged }: Props = $props();
  const any = '';
  let edited = $state<string | null>(null);
  let name = $state('');
  let kind = $state<PictureKind | ''>(any);
  let view = $state<Projection | ''>(any);
  let device = $state(any);
  let words = $state('');

  const rule = $derived.by((): CategoryRule | null => {
    const said = {
      kinds: kind === any ? [] : [kind],
      views: view === any ? [] : [view],
      devices: device === any ? [] : [device],
      words: words
        .split(',')
        .map((each) => each.trim())
        .filter((each) => each.length > 1)
    };
    return Object.values(said).some((each) => each.length > 0) ? said : null;
  });
  const ruleWords = (of: CategoryRule) =>
    [
      ...of.kinds.map((each) => kindWords[each].toLowerCase()),
      ...of.views.map((each) => projectionWords(each)),
      ...of.devices.map((each) => `from ${each}`),
      of.words.length > 0 ? `with “${of.words.join('” or “')}”` : ''
    ]
      .filter(Boolean)
      .join(', ');

  function edit(category: Ruled | null) {
    edited = category?.categoryId ?? null;
    name = category?.name ?? '';
    kind = category?.rule?.kinds[0] ?? any;
    view = category?.rule?.views[0] ?? any;
    device = category?.rule?.devices[0] ?? any;
    words = category?.rule?.words.join(', ') ?? '';
  }
  async function keep() {
    const url = edited === null ? '/api/categories' : `/api/categories/${edited}`;
    if (!(await attempt(() => ask(url, { name, rule })))) return;
    edit(null);
    await onchanged();
  }
  async function drop(categoryId: string) {
    await attempt(() => ask(`/api/categories/${categoryId}`, {}, 'DELETE'));
    if (edited === categoryId) edit(null);
    await onchanged();
  }
</script>

{#snippet named(words: string)}<span class="mb-1 block font-semibold" aria-hidden="true">{words}</span
  >{/snippet}

<ul class="mb-4 flex flex-col gap-1.5">
  {#each categories as category (category.categoryId)}
    <li class="border-rule flex items-center gap-2 rounded-lg border pl-3">
      <span class="min-w-0 flex-1 py-1 leading-tight">
        <span class="block font-semibold">{category.name}</span>
        <span class="text-small text-ink-soft block"
          >{category.rule ? `By rule: ${ruleWords(category.rule)}` : 'By hand'}</span
        >
      </span>
      {#if mayChange}<button class="button quiet" onclick={() => edit(category)}>Change</button>
        <button
          class="button quiet px-2.5"
          onclick={() => drop(category.categoryId)}
          aria-label="Drop {category.name}"><Trash2 size={18} aria-hidden="true" /></button
        >{/if}
    </li>
  {:else}<li class="text-ink-soft">There is none yet.</li>{/each}
</ul>
{#if mayChange}
  <form
    class="grid grid-cols-2 gap-3"
    onsubmit={(event) => {
      event.preventDefault();
      void keep();
    }}
  >
    <h3 class="text-lead col-span-2 font-bold">{edited === null ? 'A new one' : 'Change it'}</h3>
    <div class="col-span-2">
      <TextField label="Name" bind:value={name} most={60} example="Before treatment" testid="category-name" />
    </div>
    <p class="text-ink-soft text-small col-span-2">
      Filed by itself, where anything is said here, is what fits all of it.
    </p>
    <div>
      {@render named('Kind')}
      <Select
        label="Kind"
        bind:value={kind}
        options={[
          { value: any, words: 'Any kind' },
          ...pictureKinds.map((each) => ({ value: each, words: kindWords[each] }))
        ]}
      />
    </div>
    <div>
      {@render named('View')}
      <Select
        label="View"
        bind:value={view}
        options={[
          { value: any, words: 'Any view' },
          ...projectionNames.map((each) => ({ value: each, words: projectionWords(each) }))
        ]}
      />
    </div>
    <div>
      {@render named('Device')}
      <Select
        label="Device"
        bind:value={device}
        options={[
          { value: any, words: 'Any device' },
          ...[...new Set([...devices, ...(device ? [device] : [])])].map((each) => ({
            value: each,
            words: each
          }))
        ]}
      />
    </div>
    <TextField
      label="Words, with commas between"
      bind:value={words}
      most={200}
      example="before, start"
      testid="category-words"
    />
    <div class="col-span-2 flex gap-2">
      <button class="button main" disabled={name.trim() === ''} data-testid="keep-category"
        >{edited === null ? 'Make it' : 'Keep the change'}</button
      >
      {#if edited !== null}<button type="button" class="button" onclick={() => edit(null)}>Leave it</button
        >{/if}
    </div>
  </form>
{/if}
