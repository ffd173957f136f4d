<script lang="ts">
  import { Plus, Trash2 } from '@lucide/svelte';
  import {
    type WrittenMeasure,
    measureKinds,
    writtenMeasures
  } from '$core/measurement/guides/writtenMeasures';
  import type { WrittenResult } from '$core/measurement/guides/writtenSchema';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { typedNumber } from '../words';
  import type { GuideDraft } from './guideDraft.svelte';

  let { draft, disabled }: { draft: GuideDraft; disabled: boolean } = $props();
  let open = $state<string | null>(null);
  const measures = writtenMeasures.map((value) => ({ value, words: measureKinds[value].words }));
  const landmarksOf = (key: string) =>
    (draft.guide.views.find((view) => view.key === key)?.landmarks ?? []).map((each, i) => ({
      value: each.key,
      words: `${i + 1} ${each.name || 'without a name'}`
    }));
  const unitOf = ({ measure }: WrittenResult) =>
    ({ deg: '°', '': '' })[measureKinds[measure].unit as 'deg'] ?? measureKinds[measure].unit;

  function add() {
    draft.addResult();
    open = draft.guide.results.at(-1)!.key;
  }
  const limit = (text: string): number | null => {
    const value = typedNumber(text);
    return Number.isFinite(value) ? value : null;
  };
  function range(result: WrittenResult, side: 'low' | 'high', text: string) {
    const next = { low: result.normal?.low ?? null, high: result.normal?.high ?? null, [side]: limit(text) };
    result.normal = next.low === null && next.high === null ? null : next;
  }
</script>

{#snippet bound(result: WrittenResult, side: 'low' | 'high', words: string)}
  <label class="flex min-w-0 flex-1 flex-col gap-1 font-semibold"
    >{words}
    <input
      class="border-rule bg-paper min-h-11 min-w-0 rounded-lg border px-3 font-normal"
      inputmode="decimal"
      value={result.normal?.[side] ?? ''}
      onchange={(event) => range(result, side, event.currentTarget.value)}
      data-testid="result-{side}"
    /></label
  >
{/snippet}

<div class="flex flex-col gap-2">
  <ul class="flex flex-col gap-1">
    {#each draft.guide.results as result (result.key)}
      {@const kind = measureKinds[result.measure]}
      <li class="border-rule rounded-lg border" data-testid="guide-result-row">
        <button
          class="flex min-h-11 w-full items-center gap-3 px-3 text-left"
          aria-expanded={open === result.key}
          onclick={() => (open = open === result.key ? null : result.key)}
          ><span class="min-w-0 flex-1 truncate font-semibold">{result.name || 'Without a name'}</span>
          <span class="text-small text-ink-soft truncate">{kind.words}</span></button
        >
        {#if open === result.key}
          <fieldset class="flex min-w-0 flex-col gap-2.5 px-3 pb-3" {disabled}>
            <legend class="sr-only">{result.name}</legend>
            <TextField label="Name" bind:value={result.name} most={80} testid="result-name" />
            <div>
              <span class="font-semibold" aria-hidden="true">What is measured</span>
              <Select
                label="What is measured"
                {disabled}
                value={result.measure}
                options={measures}
                onchange={(measure) => draft.measureBy(result, measure as WrittenMeasure)}
                testid="result-measure"
              />
            </div>
            {#if draft.guide.views.length > 1}
              <Select
                label="In which view"
                {disabled}
                value={result.view}
                options={draft.guide.views.map(({ key, name }) => ({ value: key, words: name }))}
                onchange={(view) => {
                  result.view = view;
                  result.of = result.of.map(() => '');
                }}
              />
            {/if}
            <div class="grid grid-cols-2 gap-2">
              {#each result.of as of, i (i)}
                <div>
                  <span class="text-small font-semibold" aria-hidden="true"
                    >{kind.points[Math.min(i, kind.points.length - 1)]}</span
                  >
                  <Select
                    label={kind.points[Math.min(i, kind.points.length - 1)]}
                    {disabled}
                    small
                    value={of}
                    options={landmarksOf(result.view)}
                    onchange={(key) => (result.of[i] = key)}
                    testid="result-of"
                  />
                </div>
              {/each}
            </div>
            {#if kind.most > kind.least}
              <div class="flex gap-1.5">
                <button
                  class="button px-3"
                  disabled={result.of.length >= kind.most}
                  onclick={() => result.of.push('')}>One landmark more</button
                >
                <button
                  class="button px-3"
                  disabled={result.of.length <= kind.least}
                  onclick={() => result.of.pop()}>One less</button
                >
              </div>
            {/if}
            <fieldset class="flex min-w-0 flex-col gap-2">
              <legend class="text-small text-ink-soft mb-1">Where the measure comes from</legend>
              <div class="flex gap-2">
                <div class="min-w-0 flex-1">
                  <TextField
                    label="Author"
                    bind:value={result.source.author}
                    most={120}
                    testid="result-author"
                  />
                </div>
                <label class="flex w-24 flex-col gap-1 font-semibold"
                  >Year<input
                    class="border-rule bg-paper min-h-11 min-w-0 rounded-lg border px-3 font-normal"
                    inputmode="numeric"
                    type="number"
                    bind:value={result.source.year}
                  /></label
                >
              </div>
              <TextField label="Title" bind:value={result.source.title} most={300} testid="result-title" />
            </fieldset>
            <div class="flex gap-2">
              {@render bound(result, 'low', `Normal from${unitOf(result) ? ` (${unitOf(result)})` : ''}`)}
              {@render bound(result, 'high', 'up to')}
            </div>
            <TextField
              label="To be minded (may be left out)"
              bind:value={result.mind}
              most={300}
              example="What it can be wrong by"
            />
            {#if !disabled}<button
                class="button quiet self-start px-2"
                onclick={() => draft.removeResult(result)}
                ><Trash2 size={18} aria-hidden="true" />Take it away</button
              >{/if}
          </fieldset>
        {/if}
      </li>
    {/each}
  </ul>
  {#if !disabled}<button class="button self-start" onclick={add} data-testid="add-result"
      ><Plus size={18} aria-hidden="true" />Add a result</button
    >{/if}
</div>
