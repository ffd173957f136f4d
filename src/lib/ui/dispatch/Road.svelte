<script lang="ts">
  import { type ParcelView, markOf, marks, wantsPerson } from '$core/parcel/road';

  let { parcel }: { parcel: ParcelView } = $props();
  const at = $derived(marks.indexOf(markOf(parcel)));
  const stuck = $derived(wantsPerson(parcel));
  const fetched = $derived(parcel.destination === null);
  const shown = $derived(fetched ? (['packed', 'there'] as const) : marks);
</script>

<!-- A road with its marks: how far the parcel came, and whether it stands still there. -->
<ol class="flex items-center" aria-label="How far it came" data-testid="road">
  {#each shown as mark, i (mark)}
    {@const passed =
      marks.indexOf(mark) < at || (marks.indexOf(mark) === at && (mark === 'there' || mark === 'read back'))}
    {@const here = marks.indexOf(mark) === at}
    {#if i > 0}<li
        class="h-0.5 w-4 {marks.indexOf(mark) <= at ? 'bg-lagoon' : 'bg-rule'}"
        aria-hidden="true"
      ></li>{/if}
    <li class="flex items-center gap-1.5" aria-current={here ? 'step' : undefined} data-here={here}>
      <span
        class="size-3.5 shrink-0 {here && stuck
          ? 'bg-brass rotate-45'
          : passed
            ? 'bg-lagoon rounded-full'
            : here
              ? 'border-ink rounded-full border-[3px]'
              : 'border-ink-soft rounded-full border'}"
        aria-hidden="true"
      ></span>
      <span
        class="text-small whitespace-nowrap {here
          ? stuck
            ? 'text-brass font-bold'
            : 'font-bold'
          : 'text-ink-soft'}">{fetched && mark === 'there' ? 'fetched' : mark}</span
      >
    </li>
  {/each}
</ol>
