<script lang="ts">
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import { Plus, Trash2 } from '@lucide/svelte';
  import { guides } from '$core/measurement/guides/all';
  import DrawingSheet from '$ui/guides/DrawingSheet.svelte';
  import { GuideDraft, newGuide } from '$ui/guides/guideDraft.svelte';
  import LandmarkList from '$ui/guides/LandmarkList.svelte';
  import ResultList from '$ui/guides/ResultList.svelte';
  import { schematicOf } from '$ui/guides/schematics';
  import Choice from '$ui/kit/Choice.svelte';
  import Select from '$ui/kit/Select.svelte';
  import Tabs from '$ui/kit/Tabs.svelte';
  import Tooltip from '$ui/kit/Tooltip.svelte';
  import { ask, attempt } from '$ui/net/send';
  import { describeKeys } from '$ui/shell/keys.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { tradeWords } from '$ui/words';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  const { entry } = data;
  const may = $derived(data.who!.may.writeGuides);
  const draft = new GuideDraft(
    `guide draft ${entry ? `${entry.key} ${entry.version}` : 'new'}`,
    entry?.written ?? newGuide('bones')
  );
  let takenUp = $state(false);
  let tab = $state('landmarks');
  onMount(() => {
    if (may) takenUp = draft.takeUp();
  });
  $effect(() => {
    if (may) draft.keep();
  });
  $effect(() =>
    describeKeys([
      { key: '← → ↑ ↓', does: 'Move the landmark that has the focus' },
      { key: 'Delete', does: 'Take it away' }
    ])
  );
  const none = 'none';
  const drawings = [
    { value: none, words: 'An empty sheet' },
    ...guides.flatMap((guide) =>
      guide.views
        .filter(({ key }) => schematicOf(`${guide.key} ${key}`))
        .map(({ key, name }) => ({ value: `${guide.key} ${key}`, words: name, detail: guide.name }))
    )
  ];
  async function keep() {
    const of = entry ? { key: entry.key, version: entry.version } : null;
    const guide = draft.finished();
    if (!(await attempt(() => ask('/api/guides', { of, guide })))) return;
    draft.forget();
    await goto('/settings/guides');
  }
</script>

<svelte:head><title>{draft.guide.name || 'A new guide'} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
    <div class="flex flex-wrap items-end gap-3">
      <h1 class="sr-only">{draft.guide.name || 'A new guide'}</h1>
      <label class="w-80"
        ><span class="text-small font-semibold">Name of the guide</span>
        <input
          bind:value={draft.guide.name}
          disabled={!may}
          maxlength="80"
          placeholder="What is measured, in the trade’s words"
          class="border-rule bg-paper text-lead mt-0.5 min-h-11 w-full rounded-lg border px-3 font-semibold"
          data-testid="guide-name"
        /></label
      >
      <Choice
        label="Trade"
        bind:value={draft.guide.trade}
        disabled={!may}
        testid="guide-trade"
        options={(['teeth', 'bones', 'animals', 'eyes'] as const).map((value) => ({
          value,
          words: tradeWords[value]
        }))}
      />
      <span class="flex-1"></span>
      {#if takenUp}<span class="text-small text-ink-soft self-center"
          >Goes on where you left it on this machine.</span
        >{/if}
      <a class="button" href="/settings">{may ? 'Not now' : 'Back'}</a>
      {#if may}<button
          class="button main"
          disabled={draft.lacks !== null}
          onclick={keep}
          data-testid="keep-guide">{entry ? `Keep as version ${entry.version + 1}` : 'Keep it'}</button
        >{/if}
    </div>
    <div class="flex min-h-0 flex-1 gap-4">
      <section class="panel flex min-w-0 flex-1 flex-col gap-3 p-4" aria-label="The drawing">
        <div class="flex flex-wrap items-end gap-2">
          <Choice
            label="View"
            bind:value={draft.viewKey}
            testid="guide-views"
            options={draft.guide.views.map(({ key, name }) => ({
              value: key,
              words: name || 'Without a name'
            }))}
          />
          {#if may}
            <Tooltip
              words="Another view: a picture of its own"
              button="flex size-11 items-center justify-center rounded-lg"
              testid="add-view"
              onclick={() => draft.addView()}><Plus size={18} aria-hidden="true" /></Tooltip
            >
            {#if draft.guide.views.length > 1}<Tooltip
                words="Take this view away, with its results"
                button="flex size-11 items-center justify-center rounded-lg"
                onclick={() => draft.removeView()}><Trash2 size={18} aria-hidden="true" /></Tooltip
              >{/if}
          {/if}
        </div>
        {#if may}
          <div class="flex gap-2">
            <label class="w-56"
              ><span class="text-small font-semibold">Name of the view</span>
              <input
                bind:value={draft.view.name}
                maxlength="80"
                class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
                data-testid="view-name"
              /></label
            >
            <div class="min-w-0 flex-1">
              <span class="text-small font-semibold" aria-hidden="true">On the drawing</span>
              <Select
                label="On the drawing"
                value={draft.view.drawing ?? none}
                options={drawings}
                onchange={(key) => (draft.view.drawing = key === none ? null : key)}
                testid="view-drawing"
              />
            </div>
          </div>
        {/if}
        <div class="flex min-h-0 flex-1 justify-center"><DrawingSheet {draft} disabled={!may} /></div>
      </section>
      <section
        class="panel flex min-h-0 w-110 shrink-0 flex-col p-4"
        aria-label="What is asked for, and what follows"
      >
        <Tabs
          label="What is asked for, and what follows"
          bind:value={tab}
          tabs={[
            { value: 'landmarks', words: 'Landmarks', detail: String(draft.view.landmarks.length) },
            { value: 'results', words: 'Results', detail: String(draft.guide.results.length) }
          ]}
        >
          {#snippet children(which)}
            <div class="-mx-1 h-full overflow-y-auto px-1 pt-3 pb-2">
              {#if which === 'landmarks'}<LandmarkList {draft} disabled={!may} />{:else}<ResultList
                  {draft}
                  disabled={!may}
                />{/if}
            </div>
          {/snippet}
        </Tabs>
        {#if may && draft.lacks}<p
            class="border-rule text-brass border-t pt-2 font-semibold"
            role="status"
            data-testid="guide-lacks"
          >
            {draft.lacks}
          </p>{/if}
      </section>
    </div>
  </main>
</div>
