<script lang="ts">
  import { type Place, placeKey, showPlaces } from '$core/anatomy/place';
  import { deciduousTeeth, permanentTeeth, showTooth } from '$core/anatomy/teeth';
  import { mostTextLetters } from '$core/picture/layers/text/text';
  import { placesOf } from '$core/picture/pictureView';
  import type { LightTable } from './table.svelte';

  /** What was pointed at waits for its words, or for the place it is. */
  let { table }: { table: LightTable } = $props();
  const { notation } = $derived(table);
  const wanted = $derived(table.unsaid!);
  const places = $derived(placesOf(table.picture!));
  const ofTeeth = $derived(places.length === 0 || places.every(({ kind }) => kind === 'tooth'));
  let words = $state('');
  let message = $state('');

  function toothNamed(said: string): Place | null {
    const tooth = [...permanentTeeth, ...deciduousTeeth].find(
      (each) => showTooth(each, notation).toLowerCase() === said.trim().toLowerCase()
    );
    return tooth === undefined ? null : { kind: 'tooth', tooth };
  }

  function say(event: SubmitEvent) {
    event.preventDefault();
    const said = words.trim();
    if (wanted.kind === 'text') {
      if (said === '') message = 'Type the words, or press Leave it.';
      else table.say({ words: said });
      return;
    }
    const place = toothNamed(said);
    if (place) table.say({ place });
    else
      message = `There is no tooth ${said || 'without a number'}: type its number as the clinic writes it.`;
  }
</script>

<svelte:window onkeydown={(event) => event.key === 'Escape' && (table.unsaid = null)} />
<form
  class="bg-coral-wash border-coral flex flex-col gap-2 rounded-lg border p-3"
  onsubmit={say}
  data-testid="say-it"
>
  <h2 class="heading">{wanted.kind === 'text' ? 'Words' : 'Which place is it?'}</h2>
  {#if wanted.kind === 'label'}
    <div class="flex flex-wrap gap-1.5">
      {#each places as place, i (placeKey(place))}
        <!-- svelte-ignore a11y_autofocus -->
        <button
          type="button"
          class="button min-w-12 px-2"
          autofocus={i === 0}
          onclick={() => table.say({ place })}
          data-testid="label-{placeKey(place)}">{showPlaces([place], notation)}</button
        >
      {/each}
    </div>
  {/if}
  {#if wanted.kind === 'text' || ofTeeth}
    <!-- svelte-ignore a11y_autofocus -->
    <input
      class="border-rule bg-paper min-h-11 rounded-lg border px-3"
      aria-label={wanted.kind === 'text' ? 'Words on the picture' : 'Another tooth'}
      placeholder={wanted.kind === 'text' ? 'Words on the picture' : 'Another tooth'}
      maxlength={mostTextLetters}
      autofocus={wanted.kind === 'text' || places.length === 0}
      bind:value={words}
      data-testid="say-words"
    />
  {/if}
  {#if message}<p role="alert" class="text-small text-brass font-semibold">{message}</p>{/if}
  <div class="flex gap-2">
    <button type="button" class="button flex-1" onclick={() => (table.unsaid = null)}>Leave it</button>
    {#if wanted.kind === 'text' || ofTeeth}<button class="button main flex-1" data-testid="say"
        >Put it there</button
      >{/if}
  </div>
</form>
