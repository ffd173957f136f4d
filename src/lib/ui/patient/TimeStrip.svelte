<script lang="ts">
  import { dayWords } from '../clock';
  import RangeSlider from '../kit/RangeSlider.svelte';
  import { type TimeMark, timelineOf } from './timeline';

  interface Props {
    marks: readonly TimeMark[];
    from: string | null;
    until: string | null;
    onlimit: (from: string | null, until: string | null) => void;
  }
  let { marks, from, until, onlimit }: Props = $props();
  const line = $derived(timelineOf(marks));
  const given = $derived<[number, number]>(
    line ? [from ? line.dayOf(from) : 0, until ? line.dayOf(until) : line.days] : [0, 1]
  );
  /** While an end is dragged. */
  let moved = $state<[number, number] | null>(null);
  const shown = $derived(moved ?? given);
  const limited = $derived(line !== null && (shown[0] > 0 || shown[1] < line.days));

  function limit([low, high]: [number, number]) {
    moved = null;
    const end = Math.max(low + 1, high);
    onlimit(low <= 0 ? null : line!.momentOf(low), end >= line!.days ? null : line!.momentOf(end));
  }
</script>

{#if line}
  <div class="border-rule flex items-center gap-3 border-t pt-1" data-testid="time-strip">
    <div class="relative h-14 min-w-0 flex-1">
      <!-- The ends of the track lie half a thumb inside. -->
      <div class="absolute inset-x-3 top-0 h-11" aria-hidden="true">
        {#each line.ticks as { words, at } (at)}
          <span class="border-rule absolute top-0 h-14 border-l border-dashed" style="left: {at * 100}%"
            ><span class="text-small text-ink-soft absolute bottom-0 left-1 leading-none">{words}</span></span
          >
        {/each}
        {#each line.marks as { at, tall }, i (i)}
          {@const inside = at * line.days >= shown[0] && at * line.days <= shown[1]}
          <span
            class="absolute w-1 -translate-x-1/2 rounded-full {inside ? 'bg-lagoon' : 'bg-rule'}"
            style="left: {at * 100}%; bottom: 50%; height: {5 + tall * 15}px"
          ></span>
        {/each}
      </div>
      <RangeSlider
        value={shown}
        quiet={!limited}
        labels={['Taken on this day or later', 'Taken before this day']}
        least={0}
        most={line.days}
        onmove={(value) => (moved = value)}
        ondone={limit}
      />
    </div>
    <p class="text-small w-44 shrink-0 text-right leading-tight" data-testid="time-words">
      {#if limited}
        <strong>{dayWords(line.momentOf(shown[0]))}</strong> to
        <strong>{dayWords(line.momentOf(Math.max(shown[0], shown[1] - 1)))}</strong>
        <button class="ml-1 font-semibold underline" onclick={() => onlimit(null, null)}>all</button>
      {:else}<span class="text-ink-soft">Since {dayWords(line.momentOf(0))}</span>{/if}
    </p>
  </div>
{/if}
