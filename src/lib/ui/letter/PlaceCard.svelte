<script lang="ts">
  import { AlignHorizontalDistributeCenter, Trash2, X } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { page } from '$app/state';
  import { placeKey } from '$core/anatomy/place';
  import { placeOfKey } from '$core/anatomy/placeOfKey';
  import { bodyMaps } from '$core/anatomy/placeKind';
  import type { PlaceWant } from '$core/letter/letterPlace';
  import { alignedInRow, keptInside } from '$core/letter/snapping';
  import { type Category, pictureKinds } from '$core/picture/pictureView';
  import BodyMap from '../body/BodyMap.svelte';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import TextField from '../kit/TextField.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { kindWords } from '../pictures/listedWords';
  import type { LetterDesk } from './letterDesk.svelte';
  import PickPicture from './PickPicture.svelte';

  /** The place that is worked on: what it takes, how large it is, what is said under it. */
  interface Props {
    desk: LetterDesk;
    categories: readonly Category[];
    /** Whose pictures can be picked; null for a template. */
    patientId: string | null;
  }
  let { desk, categories, patientId }: Props = $props();
  const place = $derived(desk.place!);
  const want = $derived(place.want);
  const change = (next: Parameters<LetterDesk['changePlace']>[1]) => desk.changePlace(place.id, next);

  const wants: Record<PlaceWant['kind'], PlaceWant> = {
    newest: { kind: 'newest', category: '', place: '', pictureKind: null },
    'kept view': { kind: 'kept view', name: '' },
    picked: { kind: 'picked', pictureId: null }
  };
  const any = '';
  const categoryOptions = $derived([
    { value: any, words: 'Any category' },
    ...categories.map(({ name }) => ({ value: name, words: name })),
    ...(want.kind === 'newest' && want.category && !categories.some(({ name }) => name === want.category)
      ? [{ value: want.category, words: want.category, detail: 'not a category here' }]
      : [])
  ]);
  const kindOptions = [
    { value: any, words: 'Any kind' },
    ...pictureKinds.map((value) => ({ value, words: kindWords[value] }))
  ];
  const ages = [any, '1', '3', '6', '12', '24', '60'];
  const ageOptions = ages.map((value) => ({
    value,
    words: value === any ? 'However old' : value === '1' ? 'At most 1 month' : `At most ${value} months`
  }));
  let placing = $state(false);
  let picking = $state(false);

  const figure = (text: string) => Number(text.trim().replace(',', '.'));
  function size(of: 'widthMm' | 'heightMm', text: string) {
    const mm = figure(text);
    if (!(mm > 0)) return;
    change(keptInside({ ...place, [of]: mm }));
  }
  function align() {
    const row = desk.rowOf(place.id);
    try {
      desk.changeRow(place.id, alignedInRow(row));
    } catch {
      toast.error('They don’t fit side by side.', {
        description: 'Take one out, or put it into a row of its own.'
      });
    }
  }
</script>

<section class="flex flex-col gap-3" aria-label="Picture {desk.numberOf(place.id)}" data-testid="place-card">
  <div class="flex items-center gap-1">
    <h2 class="heading flex-1">Picture {desk.numberOf(place.id)}</h2>
    <Tooltip
      words="Take it out"
      key="Del"
      button="flex size-11 items-center justify-center rounded-lg"
      testid="place-out"
      onclick={() => change(null)}><Trash2 size={18} aria-hidden="true" /></Tooltip
    >
    <Tooltip
      words="Done with it"
      button="flex size-11 items-center justify-center rounded-lg"
      testid="place-done"
      onclick={() => (desk.selected = null)}><X size={18} aria-hidden="true" /></Tooltip
    >
  </div>
  <Choice
    label="What it takes"
    small
    testid="place-want"
    value={want.kind}
    options={[
      { value: 'newest', words: 'Newest' },
      { value: 'kept view', words: 'Kept view' },
      { value: 'picked', words: 'Picked' }
    ]}
    onchange={(kind) => kind !== want.kind && change({ want: wants[kind] })}
  />
  {#if want.kind === 'newest'}
    <Select
      label="Category"
      value={want.category}
      options={categoryOptions}
      onchange={(category) => change({ want: { ...want, category } })}
      testid="place-category"
    />
    <Select
      label="Kind"
      value={want.pictureKind ?? any}
      options={kindOptions}
      onchange={(kind) =>
        change({ want: { ...want, pictureKind: pictureKinds.find((each) => each === kind) ?? null } })}
      testid="place-kind"
    />
    <div class="flex items-center gap-2">
      <button
        class="button min-w-0 flex-1 justify-start px-3"
        onclick={() => (placing = true)}
        data-testid="place-body"
        ><span class="truncate">{want.place ? desk.placeWords(want.place) : 'Anywhere in the body'}</span
        ></button
      >
      {#if want.place}
        <Tooltip
          words="Anywhere in the body"
          button="flex size-11 items-center justify-center rounded-lg"
          onclick={() => change({ want: { ...want, place: '' } })}><X size={18} aria-hidden="true" /></Tooltip
        >
      {/if}
    </div>
  {:else if want.kind === 'kept view'}
    <TextField
      label="Called (empty for the newest)"
      value={want.name}
      most={120}
      testid="place-kept"
      onchange={(name) => change({ want: { ...want, name } })}
    />
  {/if}
  {#if patientId && want.kind !== 'kept view'}
    <button class="button" onclick={() => (picking = true)} data-testid="place-pick">Another picture</button>
  {/if}
  <Select
    label="How old it may be"
    value={place.atMostMonths === null ? any : String(place.atMostMonths)}
    options={ageOptions}
    onchange={(months) => change({ atMostMonths: months === any ? null : Number(months) })}
    testid="place-age"
  />
  <div class="grid grid-cols-2 gap-2">
    <TextField
      label="Wide, mm"
      figure
      value={String(Math.round(place.widthMm))}
      testid="place-wide"
      onchange={(text) => size('widthMm', text)}
    />
    <TextField
      label="High, mm"
      figure
      value={String(Math.round(place.heightMm))}
      testid="place-high"
      onchange={(text) => size('heightMm', text)}
    />
  </div>
  <TextField
    label="Said under it"
    value={place.caption}
    most={200}
    example="Its name and its day"
    testid="place-caption"
    onchange={(caption) => change({ caption })}
  />
  <Switch
    checked={place.drawn}
    words="With readings and drawings"
    testid="place-drawn"
    onchange={(drawn) => change({ drawn })}
  />
  {#if desk.rowOf(place.id).length > 1}
    <button class="button" onclick={align} data-testid="place-align"
      ><AlignHorizontalDistributeCenter size={18} aria-hidden="true" />Align the row</button
    >
  {/if}
</section>

<Dialog bind:open={placing} title="Which place in the body" wide>
  <div class="h-100">
    <BodyMap
      maps={bodyMaps}
      notation={page.data.who.notation}
      chosen={want.kind === 'newest' && want.place
        ? [placeOfKey(want.place)].flatMap((each) => each ?? [])
        : []}
      label="Places in the body"
      onchoose={(chosen) => {
        if (want.kind === 'newest') change({ want: { ...want, place: placeKey(chosen) } });
        placing = false;
      }}
    />
  </div>
</Dialog>
{#if patientId}
  <PickPicture
    bind:open={picking}
    {patientId}
    onpick={(pictureId) => change({ want: { kind: 'picked', pictureId }, atMostMonths: null })}
  />
{/if}
