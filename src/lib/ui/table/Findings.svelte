<script lang="ts">
  import { PencilLine, Plus, X } from '@lucide/svelte';
  import { type Place, placeKey, placeWords } from '$core/anatomy/place';
  import { findingsOf } from '$core/picture/pictureLayers';
  import { placesOf } from '$core/picture/pictureView';
  import Select from '../kit/Select.svelte';
  import type { LightTable } from './table.svelte';

  let { table, onputright }: { table: LightTable; onputright: () => void } = $props();
  const { notation, may } = $derived(table);
  const picture = $derived(table.picture!);
  const findings = $derived(findingsOf(picture.layers));
  const places = $derived(placesOf(picture));
  const whole = 'whole';
  let adding = $state(false);
  let where = $derived(places[0] ? placeKey(places[0]) : whole);
  let words = $state('');
  const say = (place: Place | null) => (place ? placeWords(place, notation) : 'the whole picture');

  function add() {
    if (words.trim() === '') return;
    table.addFinding({ place: places.find((each) => placeKey(each) === where) ?? null, words: words.trim() });
    words = '';
    adding = false;
  }
</script>

<section aria-label="Findings">
  <div class="mb-1 flex items-center justify-between">
    <h2 class="heading">Findings</h2>
    {#if may.changePictures && !adding}
      <span class="-mr-2 flex">
        <button class="button quiet text-small px-2" onclick={() => (adding = true)} data-testid="add-finding"
          ><Plus size={16} aria-hidden="true" />Add</button
        >
        <button class="button quiet text-small px-2" onclick={onputright} data-testid="open-put-right"
          ><PencilLine size={16} aria-hidden="true" />Put right</button
        >
      </span>
    {/if}
  </div>
  <ul class="flex flex-col gap-1">
    {#each findings as { id, finding } (id)}
      <li class="flex items-start gap-1 leading-tight" data-testid="finding">
        <span class="min-w-0 flex-1 py-1"
          ><span class="text-small text-ink-soft block">{say(finding.place)}</span>{finding.words}</span
        >
        {#if may.changePictures}
          <button
            class="button quiet px-2"
            onclick={() => table.dropFinding(id)}
            aria-label="Take off: {finding.words}"><X size={16} aria-hidden="true" /></button
          >
        {/if}
      </li>
    {:else}
      {#if !adding}<li class="text-small text-ink-soft">None noted.</li>{/if}
    {/each}
  </ul>
  {#if adding}
    <form
      class="mt-1 flex flex-col gap-2"
      onsubmit={(event) => {
        event.preventDefault();
        add();
      }}
    >
      <Select
        small
        label="Where"
        bind:value={where}
        testid="finding-where"
        options={[
          ...places.map((place) => ({ value: placeKey(place), words: say(place) })),
          { value: whole, words: say(null) }
        ]}
      />
      <!-- svelte-ignore a11y_autofocus -->
      <input
        class="border-rule bg-paper min-h-11 rounded-lg border px-3"
        bind:value={words}
        aria-label="What is seen"
        placeholder="What is seen"
        maxlength="500"
        autofocus
        data-testid="finding-words"
      />
      <div class="flex gap-2">
        <button class="button flex-1" type="button" onclick={() => (adding = false)}>Leave it</button>
        <button class="button main flex-1" disabled={words.trim() === ''} data-testid="keep-finding"
          >Note it</button
        >
      </div>
    </form>
  {/if}
</section>
