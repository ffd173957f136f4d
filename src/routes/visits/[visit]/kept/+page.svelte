<script lang="ts">
  import { SvelteSet } from 'svelte/reactivity';
  import { keptOf, placeBetween } from '$core/picture/keptViews';
  import { keptKinds, type KeptKind } from '$core/picture/layers/kept/kept';
  import KeptCard from '$ui/kept/KeptCard.svelte';
  import { changeKept, dropKept } from '$ui/kept/keptActs';
  import Select from '$ui/kit/Select.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const store = theVisit();
  const may = $derived(data.who!.may.changePictures);
  const views = $derived(keptOf(store.pictures));
  const chosenIds = new SvelteSet<string>();
  const chosen = $derived(views.filter(({ id }) => chosenIds.has(id)));

  function shift(i: number, by: -1 | 1) {
    const at = (k: number) => views[k]?.kept.place;
    const place = by < 0 ? placeBetween(at(i - 2), at(i - 1)) : placeBetween(at(i + 1), at(i + 2));
    changeKept(store, [views[i]], { place });
  }
</script>

<main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
  <div class="flex min-h-11 flex-wrap items-center gap-3">
    <h1 class="text-title font-bold">Kept views</h1>
    <span class="text-ink-soft">{countWords(views.length, 'view', 'views')} of this visit</span>
    {#if may && views.length > 0}
      <div class="ml-auto flex flex-wrap items-center gap-2" role="group" aria-label="For those chosen">
        {#if chosen.length > 0}
          <span class="font-semibold" role="status">{chosen.length} chosen</span>
          <div class="w-40">
            <Select
              label="Those chosen are for"
              small
              empty="Are for …"
              value={'' as KeptKind}
              options={keptKinds.map((kind) => ({ value: kind, words: kind }))}
              onchange={(kind) => changeKept(store, chosen, { kind })}
              testid="chosen-kind"
            />
          </div>
          <button class="button" onclick={() => changeKept(store, chosen, { drawn: true })}
            >With drawings</button
          >
          <button class="button" onclick={() => changeKept(store, chosen, { drawn: false })}>Without</button>
          <button
            class="button"
            onclick={() => {
              dropKept(store, chosen);
              chosenIds.clear();
            }}
            data-testid="chosen-drop">Take away</button
          >
        {/if}
        <button
          class="button"
          onclick={() => {
            if (chosen.length === views.length) chosenIds.clear();
            else for (const { id } of views) chosenIds.add(id);
          }}>{chosen.length === views.length ? 'Choose none' : 'Choose all'}</button
        >
      </div>
    {/if}
  </div>
  {#if views.length > 0}
    <ol
      class="grid min-h-0 flex-1 auto-rows-min grid-cols-[repeat(auto-fill,minmax(20rem,21.75rem))] gap-4 overflow-y-auto p-1"
    >
      {#each views as of, i (of.id)}
        <KeptCard
          {of}
          {may}
          send={data.who!.may.send}
          chosen={chosenIds.has(of.id)}
          first={i === 0}
          last={i === views.length - 1}
          onchoose={(is) => (is ? chosenIds.add(of.id) : chosenIds.delete(of.id))}
          onshift={(by) => shift(i, by)}
        />
      {/each}
    </ol>
  {:else}
    <div class="m-auto max-w-md text-center">
      <h2 class="text-lead font-bold">No view is kept yet</h2>
      <p class="text-ink-soft mt-1 mb-4">
        At Check, Scale and Measure, Q keeps what the stage shows as a picture of its own, with its look and
        what is drawn on it.
      </p>
      <a class="button main" href="/visits/{store.head.visitId}/measure">Go to the light table</a>
    </div>
  {/if}
</main>
