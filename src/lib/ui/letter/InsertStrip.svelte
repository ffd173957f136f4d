<script lang="ts">
  import { Bone, Image, PenLine, Ruler } from '@lucide/svelte';
  import { fieldWords, letterFields } from '$core/letter/letterFields';
  import { type PicturePlace, mostPlaces } from '$core/letter/letterPlace';
  import { roomForMore } from '$core/letter/snapping';
  import Combobox from '../kit/Combobox.svelte';
  import type { LetterDesk } from './letterDesk.svelte';

  /** What can be put in where the cursor is. */
  let { ready, desk }: { ready: boolean; desk: LetterDesk } = $props();

  let typed = $state('');
  let putIn = $state(0);
  const options = $derived(
    letterFields
      .filter((name) => fieldWords[name].toLowerCase().includes(typed.trim().toLowerCase()))
      .map((name) => {
        const value = desk.filling?.fields[name];
        return {
          value: name,
          words: fieldWords[name],
          detail: value === undefined ? '' : value.trim() === '' ? 'nothing yet' : value.slice(0, 60)
        };
      })
  );
  function putField(name: string) {
    typed = '';
    putIn += 1;
    desk.put({ type: 'field', attrs: { name } });
  }
  const newPlace = (at: Pick<PicturePlace, 'xMm' | 'yMm' | 'widthMm' | 'heightMm'>): PicturePlace => ({
    ...at,
    id: crypto.randomUUID(),
    want: desk.filling
      ? { kind: 'picked', pictureId: null }
      : { kind: 'newest', category: '', place: '', pictureKind: null },
    caption: '',
    drawn: true,
    atMostMonths: desk.filling ? null : 12
  });
  const usual = { widthMm: 80, heightMm: 60 };
  /** Into the row of the place that is worked on, else into a row of its own where the cursor is. */
  function putPicture() {
    const row = desk.selected ? desk.rowOf(desk.selected) : [];
    const last = row.at(-1);
    const place = newPlace(
      roomForMore(row, last ? { widthMm: last.widthMm, heightMm: last.heightMm } : usual)
    );
    if (desk.selected && row.length > 0 && row.length < mostPlaces)
      desk.changeRow(desk.selected, [...row, place]);
    else desk.put({ type: 'pictures', attrs: { places: [place] } });
    desk.selected = place.id;
  }
  const putBlock = (type: 'readings' | 'bodyMap' | 'signature') => desk.put({ type });
</script>

<section class="flex flex-col gap-2" aria-label="Put in">
  <h2 class="heading">Put in</h2>
  <!-- After each it is a new one, empty: the same field can be put in again. -->
  {#key putIn}
    <Combobox
      label="A field"
      {options}
      bind:typed
      nothing="No field is called so."
      testid="put-field"
      onchoose={putField}
    />
  {/key}
  <div class="grid grid-cols-2 gap-2">
    <button class="button px-2" onclick={putPicture} disabled={!ready} data-testid="put-picture"
      ><Image size={18} aria-hidden="true" />{desk.selected ? 'One more' : 'A picture'}</button
    >
    <button
      class="button px-2"
      onclick={() => putBlock('readings')}
      disabled={!ready}
      data-testid="put-readings"><Ruler size={18} aria-hidden="true" />Readings</button
    >
    <button class="button px-2" onclick={() => putBlock('bodyMap')} disabled={!ready} data-testid="put-map"
      ><Bone size={18} aria-hidden="true" />Body map</button
    >
    <button
      class="button px-2"
      onclick={() => putBlock('signature')}
      disabled={!ready}
      data-testid="put-signature"><PenLine size={18} aria-hidden="true" />Signature</button
    >
  </div>
</section>
