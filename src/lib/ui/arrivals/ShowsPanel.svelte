<script lang="ts">
  import { language } from '../writing';
  import { page } from '$app/state';
  import { dayOf, instantOf } from '$core/time/clinicTime';
  import { type Place, placeWords, samePlace } from '$core/anatomy/place';
  import { bodyMaps } from '$core/anatomy/placeKind';
  import { shownIn } from '$core/arrivals/shows';
  import { nothingSaid } from '$core/arrivals/says';
  import BodyMap from '../body/BodyMap.svelte';
  import { clockWords, dayWords } from '../clock';
  import DateField from '../kit/DateField.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import TextField from '../kit/TextField.svelte';
  import type { Desk } from './desk.svelte';

  let { desk }: { desk: Desk } = $props();
  const shown = $derived(desk.shown!);
  const who = $derived(page.data.who as { timeZone: string; notation: 'fdi' | 'universal' | 'palmer' });
  const places = $derived(desk.placesOf(shown));
  /** What a word said of one is said of: all that are ticked, else this one alone. */
  const about = $derived(desk.picked.size > 0 ? desk.meant : [shown]);
  let placing = $state(false);
  const taken = $derived(desk.takenOf(shown));
  const day = $derived(dayOf(new Date(taken), who.timeZone));

  function choose(place: Place) {
    const has = places.some((each) => samePlace(each, place));
    desk.tell(about, { places: has ? places.filter((each) => !samePlace(each, place)) : [...places, place] });
  }
  /** The side that was lacking: of all in the bundle that lack it. */
  function side(which: 'right' | 'left') {
    const lacking = desk.arrivals.filter(
      (each) => each.shows.lacks === 'side' && desk.placesOf(each).length === 0
    );
    for (const each of lacking) {
      const [part] = each.shows.name.split(',');
      const found = shownIn(
        { ...nothingSaid, shows: { ...nothingSaid.shows, bodyPart: part, laterality: which } },
        ''
      );
      const view = each.shows.name.split(', ').slice(1, -1).join(', ');
      desk.tell([each], { places: found.places, name: [found.name, view].filter(Boolean).join(', ') });
    }
  }
  function dated(to: string) {
    const [year, month, date] = to.split('-').map(Number);
    const [hour, minute] = clockWords(taken).split(':').map(Number);
    const at = instantOf({ year, month, day: date, hour, minute }, who.timeZone);
    if (at && at.getTime() <= Date.now()) desk.tell(desk.meant, { takenAt: at.toISOString() });
  }
</script>

<section class="flex flex-col gap-2" aria-labelledby="shows">
  <h2 id="shows" class="text-lead font-bold">What it shows</h2>
  {#if shown.kind === 'paper'}
    <p class="text-small">
      A paper of {shown.frames === 1 ? 'one page' : `${shown.frames} pages`}. It lies with the visit’s story.
    </p>
  {:else}
    <TextField
      label="Name of the view"
      bind:value={() => desk.nameOf(shown), (name) => desk.tell(about, { name })}
      testid="view-name"
      most={80}
    />
    <div class="flex flex-wrap items-center gap-1.5" data-testid="shown-places">
      {#each places as place (placeWords(place, who.notation))}
        <span class="chip bg-lagoon-wash text-lagoon">{placeWords(place, who.notation)}</span>
      {/each}
      {#if shown.shows.lacks === 'side' && places.length === 0}
        <span class="text-small text-brass font-semibold">{shown.shows.name}</span>
        <button class="button text-small px-3" onclick={() => side('right')} data-testid="side-right"
          >Right</button
        >
        <button class="button text-small px-3" onclick={() => side('left')}>Left</button>
      {/if}
      <button class="button text-small px-3" onclick={() => (placing = true)} data-testid="place-it"
        >{places.length > 0 ? 'Change' : 'Say where'}</button
      >
    </div>
    {#if shown.shows.why.length > 0 && places.length > 0}
      <p class="text-small text-ink-soft">By {shown.shows.why.join(' and ')}.</p>
    {/if}
    <div class="flex items-center gap-3">
      <span class="font-semibold" aria-hidden="true">Taken</span>
      <DateField
        language={language()}
        label={shown.dated ? 'Taken, by the file' : 'Taken'}
        value={day}
        onchange={dated}
      />
    </div>
    {#if !shown.dated}
      <p class="text-small text-ink-soft">The file does not say when. This is when it came.</p>
    {:else if taken !== shown.takenAt}
      <p class="text-small text-ink-soft">It came as {dayWords(shown.takenAt)}; that stays with it.</p>
    {/if}
  {/if}
</section>

<Dialog bind:open={placing} title="Where it shows" wide>
  <div class="h-[26rem]">
    <BodyMap
      label="Places it shows"
      maps={[...bodyMaps]}
      notation={who.notation}
      chosen={places}
      child
      onchoose={choose}
    />
  </div>
</Dialog>
