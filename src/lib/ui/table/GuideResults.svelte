<script lang="ts">
  import { BookOpen, ChartLine } from '@lucide/svelte';
  import type { GuideResult } from '$core/measurement/guides/evaluate';
  import { sourceInWords } from '$core/measurement/guides/guide';
  import type { GuideSet } from '$core/picture/guideSets';
  import { readingWords } from '../writing';
  import { guideCourse } from '$core/picture/readingCourse';
  import Popover from '../kit/Popover.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import OverTime from './OverTime.svelte';
  import RangeRule from './RangeRule.svelte';
  import type { LightTable } from './table.svelte';

  let { table, of }: { table: LightTable; of: GuideSet } = $props();
  const { guide, results } = $derived(of);
  let overTime = $state.raw<GuideResult | null>(null);
  const isLit = (needs: readonly string[]) =>
    (table.guiding.lit?.set === of.set && table.guiding.lit.needs === needs) ||
    (table.guiding.pointed?.set === of.set && needs.includes(table.guiding.pointed.landmark));
  const there = $derived(results.filter(({ outcome }) => outcome !== 'missing'));
  const missing = $derived(results.filter(({ outcome }) => outcome === 'missing'));
  const names = $derived(
    new Map(
      guide.views.flatMap(({ key: view, name, landmarks }) =>
        landmarks.map((each): [string, string] => [
          `${view}.${each.key}`,
          guide.views.length > 1 ? `${each.name} (${name})` : each.name
        ])
      )
    )
  );
</script>

<ul class="flex flex-col gap-2" data-testid="guide-results">
  {#each there as result (result.formula.key)}
    {@const { formula } = result}
    <li
      class="rounded-lg border px-3 py-2 {isLit(formula.needs) ? 'border-coral' : 'border-rule'}"
      onpointerenter={() => (table.guiding.lit = { set: of.set, needs: formula.needs })}
      onpointerleave={() => (table.guiding.lit = null)}
      onfocusin={() => (table.guiding.lit = { set: of.set, needs: formula.needs })}
      onfocusout={() => (table.guiding.lit = null)}
      data-testid="guide-result"
      data-key={formula.key}
    >
      <div class="flex items-start justify-between gap-1">
        <span class="text-small text-ink-soft">{formula.name}</span>
        <span class="flex shrink-0">
          {#if result.outcome === 'value'}<Tooltip
              words="{formula.name} over time"
              button="-mt-2 flex size-11 items-center justify-center rounded-lg"
              testid="guide-over-time"
              onclick={() => (overTime = result)}><ChartLine size={16} aria-hidden="true" /></Tooltip
            >{/if}
          <Popover
            label="Where {formula.name} comes from"
            button="-mt-2 -mr-2.5 flex size-11 shrink-0 items-center justify-center rounded-lg"
            testid="guide-source"
          >
            {#snippet trigger()}<BookOpen size={16} aria-hidden="true" />{/snippet}
            <div class="flex w-72 flex-col gap-1.5 p-3">
              <p class="font-semibold">{formula.name}</p>
              <p class="text-small">{sourceInWords(formula.source)}</p>
              {#if formula.normal}
                <p class="text-small">
                  Range: {formula.normal.low ?? 'no limit'} to {formula.normal.high ?? 'no limit'}
                  {formula.unit === 'deg' ? '°' : formula.unit}{formula.normal.means
                    ? `, ${formula.normal.means}`
                    : ''}. {sourceInWords(formula.normal.source)}
                </p>
              {/if}
              {#if formula.stages}<p class="text-small">{sourceInWords(formula.stages.source)}</p>{/if}
              {#if formula.sign}<p class="text-small">{formula.sign}</p>{/if}
              {#if formula.mind}<p class="text-small text-brass font-semibold">{formula.mind}</p>{/if}
            </div>
          </Popover>
        </span>
      </div>
      {#if result.outcome === 'value'}
        <p class="text-lead leading-tight font-bold" data-testid="guide-value">
          {readingWords(result.value)}
        </p>
        {#if formula.normal && result.standing}
          <RangeRule value={result.value} range={formula.normal} standing={result.standing} />
        {/if}
        {#if result.stage}<p class="text-small">{result.stage}</p>{/if}
      {:else if result.outcome === 'cannot'}
        <p class="text-small text-brass font-semibold">No value: {result.because}.</p>
      {/if}
    </li>
  {/each}
</ul>
{#if missing.length > 0}
  <details class="text-small" data-testid="guide-missing">
    <summary class="text-ink-soft min-h-11 py-2.5">{missing.length} left out so far</summary>
    <ul class="flex flex-col gap-1">
      {#each missing as result (result.formula.key)}
        {#if result.outcome === 'missing'}
          <li>
            <span class="font-semibold">{result.formula.name}</span> waits for {result.points
              .map((key) => names.get(key) ?? key)
              .join(', ')}
          </li>
        {/if}
      {/each}
    </ul>
  </details>
{/if}
{#if overTime?.outcome === 'value'}
  {@const { formula, value } = overTime}
  <OverTime
    {table}
    name={formula.name}
    among="All doings of this guide on pictures of the same place."
    unit={value.unit}
    courseOn={(pictures) =>
      guideCourse(
        guide.key,
        formula.key,
        value.unit,
        // A doing may lie on other pictures of the visit too.
        [
          ...pictures,
          ...table.ordered.filter((each) => pictures.every((other) => other.pictureId !== each.pictureId))
        ].map((picture) => ({ picture, layers: picture.layers }))
      )}
    range={value.unit === formula.unit ? formula.normal : undefined}
    bind:open={() => overTime !== null, (open) => !open && (overTime = null)}
  />
{/if}
