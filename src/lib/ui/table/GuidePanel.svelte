<script lang="ts">
  import {
    ArrowLeft,
    Check,
    CircleCheck,
    Crosshair,
    FileText,
    FlipHorizontal2,
    Repeat2,
    Ruler,
    SkipForward,
    Trash2,
    X
  } from '@lucide/svelte';
  import { guides } from '$core/measurement/guides/all';
  import { type FittingGuide, tradeOf } from '$core/measurement/guides/fitting';
  import { numberWords, readingWords } from '../writing';
  import type { GuideSet } from '$core/picture/guideSets';
  import { placesOf } from '$core/picture/pictureView';
  import Schematic from '../guides/Schematic.svelte';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import FoundCard from './FoundCard.svelte';
  import GuideResults from './GuideResults.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { guiding, edits, may } = $derived(table);
  const { guide, view, wanted, points, set } = $derived(guiding);
  const placed = $derived(new Set(Object.keys(points)));
  const fitting = $derived(guiding.fitting);
  const trade = $derived(tradeOf(placesOf(table.picture!)));
  const own = $derived(guiding.written(trade));
  const others: FittingGuide[] = $derived(
    guides
      .filter((each) => !fitting.some((fit) => fit.guide === each) && (!trade || each.trade === trade))
      .map((each) => ({ guide: each, view: each.views[0].key }))
  );
  /** Views that no other picture is: two pictures as one view would hide one another. */
  const free = $derived(
    (guide?.views ?? []).filter(({ key }) => {
      const on = set?.views.get(key);
      return !on || on.picture.pictureId === table.picture!.pictureId;
    })
  );
  const readingOf = (of: GuideSet) =>
    edits.readings.find(({ item }) => item.kind === 'guide' && item.id === of.set);
  const percent = (share: number) => `${Math.round(100 * share)} %`;
  const plumb = $derived(table.plumbScale);
  const who = (userId: string) => (userId ? table.picture!.people[userId] || 'somebody' : 'you');
</script>

{#snippet changed(of: GuideSet)}
  {#if of.changed}<p class="text-small text-brass font-semibold">
      This guide has changed since: results are worked out as it is now.
    </p>{/if}
  {#if guiding.laterVersion(of)}<p class="text-small text-brass font-semibold" data-testid="guide-later">
      The clinic has changed this guide since: this was done by version {of.guide.version}, and stays so.
    </p>{/if}
{/snippet}
{#snippet standing(of: GuideSet)}
  {@const reading = readingOf(of)}
  {@render changed(of)}
  {#if reading}
    <p class="text-small text-ink-soft" data-testid="guide-who">
      {reading.confirmedBy === null
        ? `prepared by ${who(reading.item.by)}`
        : `confirmed by ${who(reading.confirmedBy)}`}
    </p>
    {#if may.confirm && reading.confirmedBy === null}
      <button class="button" onclick={() => edits.confirm([reading])} data-testid="confirm-guide"
        ><CircleCheck size={18} aria-hidden="true" />Confirm these landmarks</button
      >
    {/if}
  {/if}
{/snippet}

{#snippet onPaper()}
  <a class="button quiet" href="/visits/{table.picture!.visitId}/results" data-testid="to-results"
    ><FileText size={18} aria-hidden="true" />Results on a page</a
  >
{/snippet}

{#snippet back()}
  <button
    class="button flex-1 px-2"
    disabled={!guiding.canGoBack}
    onclick={() => guiding.back()}
    data-testid="guide-back"><ArrowLeft size={18} aria-hidden="true" />Back</button
  >
{/snippet}

{#if table.round.current && set}
  <!-- What is to be confirmed stands first; a landmark is put right where it lies. -->
  <GuideResults {table} of={set} />
  {@render changed(set)}
{:else if guide && view}
  <section class="flex flex-col gap-3" aria-label="Guide: {guide.name}" data-testid="guide-card">
    <div class="flex items-center justify-between gap-2">
      <h2 class="text-lead leading-tight font-bold">{guide.name}</h2>
      <button class="button quiet px-2" onclick={() => guiding.leave()} data-testid="guide-leave"
        ><X size={18} aria-hidden="true" />Close</button
      >
    </div>
    {#if guide.views.length > 1}
      <Select
        label="This picture is"
        small
        value={view.key}
        options={free.map(({ key, name }) => ({ value: key, words: name }))}
        onchange={(key) => guiding.seeAs(key)}
        testid="guide-view"
      />
    {/if}
    {#each guiding.doubts as doubt (doubt)}
      <p class="text-small text-brass font-semibold" role="status" data-testid="guide-doubt">{doubt}</p>
    {/each}
    {#if may.changePictures}<FoundCard {guiding} {view} />{/if}
    {#if plumb && may.changePictures}
      <button class="button" onclick={() => edits.setScale(plumb)} data-testid="plumb-scale"
        ><Ruler size={18} aria-hidden="true" />Scale by the plumb line</button
      >
    {/if}
    {#if may.changePictures}
      {#if wanted}
        <div class="bg-tray relative rounded-lg p-2">
          <Schematic
            guide={guide.key}
            {view}
            wanted={wanted?.key}
            {placed}
            mirrored={guiding.mirrored}
            most={set ? 8.5 : 13}
          />
          {#if placed.size < 2}
            <div class="absolute top-0 right-0">
              <Tooltip
                words="Mirror the drawing, as the picture shows it"
                button="flex size-11 items-center justify-center rounded-lg"
                testid="guide-flip"
                onclick={() => guiding.flip()}><FlipHorizontal2 size={18} aria-hidden="true" /></Tooltip
              >
            </div>
          {/if}
        </div>
        <div role="status" data-testid="guide-wanted">
          <p class="text-small text-ink-soft">
            {view.landmarks.indexOf(wanted) + 1} of {view.landmarks.length}{wanted.optional
              ? ', may be left out'
              : ''}
          </p>
          <p class="text-lead text-coral leading-tight font-bold">{wanted.name}</p>
          <p>{wanted.where}.</p>
        </div>
        {#if guiding.proposed[wanted.key]}
          <button class="button" onclick={() => guiding.accept([wanted.key])} data-testid="found-one"
            ><Check size={18} aria-hidden="true" />Take as found, {percent(
              guiding.proposed[wanted.key].confidence
            )} sure</button
          >
        {/if}
        <div class="flex gap-1.5">
          {#if !guiding.placing}<button
              class="button main flex-1 px-2"
              onclick={() => (guiding.placing = true)}
              data-testid="guide-place"><Crosshair size={18} aria-hidden="true" />Place it</button
            >{/if}
          {@render back()}
          <button class="button flex-1 px-2" onclick={() => guiding.skip()} data-testid="guide-skip"
            ><SkipForward size={18} aria-hidden="true" />Skip</button
          >
        </div>
      {:else}
        <p class="text-lagoon flex items-center gap-1.5 font-semibold" role="status" data-testid="guide-done">
          <Check size={18} aria-hidden="true" />All that is asked for is placed or left out.
        </p>
        <div class="flex gap-1.5">{@render back()}</div>
      {/if}
    {/if}
    {#if may.changePictures && wanted}
      <Switch bind:checked={guiding.pulls} words="Pull presses to edges" testid="guide-pulls" />
    {/if}
    {#if set}
      <GuideResults {table} of={set} />
    {/if}
    {#if may.changePictures}
      <details class="text-small">
        <summary class="min-h-11 py-2.5 font-semibold">All landmarks of this view</summary>
        <ul class="flex flex-col">
          {#each view.landmarks as { key, name } (key)}
            <li>
              <button
                class="flex min-h-11 w-full items-center gap-2 rounded-lg px-2 text-left {wanted?.key === key
                  ? 'bg-coral-wash font-semibold'
                  : 'hover:bg-tray'}"
                onclick={() => guiding.choose(key)}
                data-testid="guide-landmark"
                data-key={key}
              >
                <span class="flex-1">{name}</span>
                <span class="text-ink-soft"
                  >{placed.has(key)
                    ? 'placed'
                    : guiding.proposed[key]
                      ? `found, ${percent(guiding.proposed[key].confidence)}`
                      : guiding.isSkipped(key)
                        ? 'left out'
                        : ''}</span
                >
              </button>
            </li>
          {/each}
        </ul>
      </details>
    {/if}
    {#if set}
      {@render standing(set)}
      {@render onPaper()}
      {#if may.changePictures && readingOf(set)}
        <button
          class="button quiet"
          onclick={() => {
            edits.remove(readingOf(set)!.item);
            guiding.leave();
          }}
          data-testid="guide-remove"><Trash2 size={18} aria-hidden="true" />Take them off this picture</button
        >
      {/if}
    {/if}
  </section>
{:else}
  {#each guiding.spreads as spread (spread.guide.key)}
    <section class="border-rule flex flex-col gap-1 border-b pb-3" data-testid="guide-spread">
      <h2 class="heading">{spread.guide.name}, {spread.count} times</h2>
      <ul class="text-small flex flex-col gap-1.5">
        {#each spread.results as { formula, unit, spread: of } (formula.key)}
          <li>
            <span class="font-semibold"
              >{formula.name}: mean {readingWords({
                value: of.mean,
                unit,
                plusMinus: of.repeatability
              }).split(' ±')[0]}{unit === 'deg' ? '°' : ` ${unit}`}</span
            ><span class="text-ink-soft"
              >, spread (one standard deviation) {of.standardDeviation.toPrecision(2)}; a change above {of.repeatability.toPrecision(
                2
              )} is more than chance</span
            >
          </li>
        {/each}
        {#if spread.landmarks[0]?.deviationPx > 0}
          <li class="text-ink-soft">
            Widest apart: {spread.landmarks
              .slice(0, 2)
              .map(({ name, deviationPx }) => `${name} (${numberWords(deviationPx, 1)} px)`)
              .join(', ')}.
          </li>
        {/if}
      </ul>
    </section>
  {/each}
  {#each guiding.here as each (each.set)}
    <section class="border-rule flex flex-col gap-2 border-b pb-3" data-testid="guide-set">
      <h2 class="text-lead font-bold">{each.guide.name}</h2>
      <GuideResults {table} of={each} />
      {@render standing(each)}
      {#if may.changePictures}
        <div class="flex gap-1.5">
          <button class="button flex-1 px-2" onclick={() => guiding.goOn(each)} data-testid="guide-go-on"
            >Go on</button
          >
          <button
            class="button flex-1 px-2"
            onclick={() => table.startGuide({ guide: each.guide, view: guiding.viewHere(each) })}
            data-testid="guide-again"><Repeat2 size={18} aria-hidden="true" />Once more</button
          >
        </div>
      {/if}
    </section>
  {/each}
  {#if guiding.here.length > 0}{@render onPaper()}{/if}
  {#if may.changePictures}
    <section class="flex flex-col gap-2">
      <h2 class="heading">{fitting.length > 0 ? 'For this picture' : 'Guides'}</h2>
      {#if fitting.length === 0}<p class="text-ink-soft">
          No guide is made for what this picture shows, as far as its places tell.
        </p>{/if}
      {#each fitting as each (each.guide.key)}
        {@const first = each.guide.views.find(({ key }) => key === each.view)!}
        <button
          class="border-rule hover:bg-tray flex items-center gap-3 rounded-lg border p-2 text-left"
          onclick={() => table.startGuide(each)}
          data-testid="guide-start"
          data-key={each.guide.key}
        >
          <span class="w-16 shrink-0"><Schematic guide={each.guide.key} view={first} most={5} /></span>
          <span class="leading-tight"
            ><span class="block font-semibold">{each.guide.name}</span>
            <span class="text-small text-ink-soft">{first.name}</span></span
          >
        </button>
      {/each}
      {#if own.length > 0}
        <h2 class="heading">Guides of our own</h2>
        {#each own as each (each.guide.key)}
          <button
            class="button w-full justify-start"
            onclick={() => table.startGuide(each)}
            data-testid="guide-own">{each.guide.name}</button
          >
        {/each}
      {/if}
      {#if others.length > 0}
        <details>
          <summary class="min-h-11 py-2.5 font-semibold">Other guides</summary>
          <ul class="flex flex-col gap-1.5">
            {#each others as each (each.guide.key)}
              <li>
                <button
                  class="button w-full justify-start"
                  onclick={() => table.startGuide(each)}
                  data-testid="guide-other"
                  data-key={each.guide.key}>{each.guide.name}</button
                >
              </li>
            {/each}
          </ul>
        </details>
      {/if}
    </section>
  {/if}
{/if}
