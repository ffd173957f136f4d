<script lang="ts">
  import {
    ChartLine,
    CircleCheck,
    Eye,
    EyeOff,
    EllipsisVertical,
    PencilLine,
    Repeat2,
    Trash2
  } from '@lucide/svelte';
  import { readingWords } from '../writing';
  import { readingCourse } from '$core/picture/readingCourse';
  import { type PictureReading, isReading } from '$core/picture/readings';
  import Menu from '../kit/Menu.svelte';
  import OverTime from './OverTime.svelte';
  import GreysCard from './GreysCard.svelte';
  import type { LightTable } from './table.svelte';

  interface Props {
    table: LightTable;
    reading: PictureReading;
    /** A repeat of the one above it. */
    repeat?: boolean;
  }
  let { table, reading, repeat = false }: Props = $props();
  const { edits, may } = $derived(table);
  const { item, note, values } = $derived(reading);
  const greys = $derived(table.greysOf(item));
  const measures = $derived(isReading(item.kind));
  const nameOf = (userId: string) => (userId ? table.picture!.people[userId] || 'somebody' : 'you');
  let naming = $state(false);
  let overTime = $state(false);
  let name = $state('');

  function rename(event: SubmitEvent) {
    event.preventDefault();
    edits.note(reading, { name: name.trim() });
    naming = false;
  }
  const items = $derived([
    ...(measures
      ? [{ words: 'Measure again', icon: Repeat2, testid: 'again', act: () => table.again(reading) }]
      : []),
    ...(values.length > 0
      ? [{ words: 'Over time', icon: ChartLine, testid: 'over-time-of', act: () => (overTime = true) }]
      : []),
    ...(may.confirm && measures && reading.confirmedBy === null
      ? [
          {
            words: 'Confirm',
            icon: CircleCheck,
            testid: 'confirm-reading',
            act: () => edits.confirm([reading])
          }
        ]
      : []),
    {
      words: 'Name it',
      icon: PencilLine,
      testid: 'name-reading',
      act: () => {
        name = note.name;
        naming = true;
      }
    },
    {
      words: note.hidden ? 'Show it' : 'Hide it',
      icon: note.hidden ? Eye : EyeOff,
      testid: 'hide-reading',
      act: () => edits.note(reading, { hidden: !note.hidden })
    },
    { words: 'Remove', icon: Trash2, testid: 'remove-reading', act: () => edits.remove(item) }
  ]);
</script>

<li
  class="rounded-lg border py-1 pl-3 {repeat ? 'ml-4' : ''} {table.highlighted === item.id
    ? 'border-coral bg-coral-wash'
    : 'border-rule'}"
  onpointerenter={() => (table.highlighted = item.id)}
  onpointerleave={() => (table.highlighted = null)}
  data-testid="reading-row"
  data-kind={item.kind}
>
  <div class="flex items-center gap-1">
    <div class="min-w-0 flex-1">
      {#if naming}
        <form onsubmit={rename} class="py-1">
          <!-- svelte-ignore a11y_autofocus -->
          <input
            class="border-rule bg-paper min-h-11 w-full rounded-lg border px-2"
            aria-label="Name of this reading"
            placeholder={reading.name}
            maxlength="60"
            autofocus
            bind:value={name}
            onkeydown={(event) => event.key === 'Escape' && (naming = false)}
            data-testid="reading-name"
          />
        </form>
      {:else}
        <span class="text-small text-ink-soft flex items-center gap-1.5">
          <span class="truncate">{reading.name}</span>
          {#if note.hidden}<EyeOff size={14} aria-label="hidden" />{/if}
          {#if reading.confirmedBy !== null}<CircleCheck
              size={15}
              class="text-lagoon shrink-0"
              aria-label="confirmed by {nameOf(reading.confirmedBy)}"
            />{/if}
        </span>
      {/if}
      {#each values as { words, value } (words)}
        <span class="text-lead block leading-tight font-bold" data-testid="reading"
          >{readingWords(value)}{#if words}<span class="text-small text-ink-soft font-normal">
              {words}</span
            >{/if}</span
        >
      {/each}
      {#if reading.refused}<p class="text-small text-brass font-semibold">
          No value: {reading.refused}.
        </p>{/if}
      {#if greys}<GreysCard values={greys} />{/if}
      {#if measures}
        <span class="text-small text-ink-soft block" data-testid="reading-who"
          >{reading.confirmedBy === null
            ? `prepared by ${nameOf(item.by)}`
            : `confirmed by ${nameOf(reading.confirmedBy)}`}</span
        >
      {/if}
    </div>
    {#if may.changePictures}
      <Menu
        label="What to do with {reading.name}"
        button="flex size-11 shrink-0 items-center justify-center rounded-lg"
        testid="reading-menu"
        {items}
      >
        {#snippet trigger()}<EllipsisVertical size={18} aria-hidden="true" />{/snippet}
      </Menu>
    {/if}
  </div>
  {#if overTime}<OverTime
      {table}
      name={reading.name}
      among="Readings of this kind {note.name ? 'and name' : 'without a name'} on pictures of the same place."
      unit={values[0].value.unit}
      courseOn={(pictures) => readingCourse(reading, pictures)}
      bind:open={overTime}
    />{/if}
</li>
