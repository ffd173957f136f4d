<script lang="ts">
  import { readingWords } from '../writing';
  import type { Unit } from '$core/measurement/measured';
  import type { PictureView } from '$core/picture/pictureView';
  import type { ReadingCourse } from '$core/picture/readingCourse';
  import CourseChart from '../chart/CourseChart.svelte';
  import { dayWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import { send } from '../net/send';
  import { countWords } from '../words';
  import type { LightTable } from './table.svelte';

  interface Props {
    table: LightTable;
    /** What it is called, and which others go with it. */
    name: string;
    among: string;
    unit: Unit;
    /** What it was on pictures of the same place. */
    courseOn: (pictures: readonly PictureView[]) => ReadingCourse | null;
    /** The normal range, drawn behind it. */
    range?: { low: number | null; high: number | null };
    open: boolean;
  }
  let { table, name, among, unit, courseOn, range, open = $bindable() }: Props = $props();
  let others = $state.raw<PictureView[] | null>(null);
  let failed = $state('');
  const picture = $derived(table.picture!);

  $effect(() => {
    const { pictureId } = picture;
    others = null;
    send<PictureView[]>('GET', `/api/pictures/${pictureId}/same-place`).then(
      (found) => (others = found),
      (error: Error) => (failed = error.message)
    );
  });
  /** Of this visit as the table has them, so that what was just moved counts. */
  const course = $derived(
    others &&
      courseOn([
        { ...picture, layers: table.edits.layers },
        ...others.filter(({ pictureId }) => pictureId !== picture.pictureId)
      ])
  );
  const change = $derived.by(() => {
    if (!course?.change) return '';
    const { value, plusMinus } = course.change;
    const words = `${value > 0 ? '+' : ''}${readingWords({ value, plusMinus, unit })}`;
    return Math.abs(value) > plusMinus
      ? `From the first to the last: ${words}. That is more than the measuring itself can make.`
      : `From the first to the last: ${words}. That may be the measuring alone.`;
  });
</script>

<Dialog
  bind:open
  wide
  title="{name} over time"
  message="{among} The band is their ±; hollow ones wait for a clinician."
>
  {#if failed}<p class="text-brass font-semibold" role="alert">{failed}</p>
  {:else if !course}<p class="text-ink-soft">Looking in the chart …</p>
  {:else}
    <div class="flex flex-col gap-3" data-testid="over-time">
      <div class="h-64">
        <CourseChart
          points={course.points}
          {unit}
          {range}
          label="{name} over time: {course.points
            .map((point) => `${dayWords(point.takenAt)} ${readingWords({ ...point, unit })}`)
            .join('; ')}"
        />
      </div>
      {#if range}<p class="text-small text-ink-soft">
          Dashed: the range from {range.low ?? 'no limit'} to {range.high ?? 'no limit'}.
        </p>{/if}
      {#if change}<p class="font-semibold" data-testid="course-change">{change}</p>
      {:else}<p class="text-ink-soft">
          There is no other time yet. Measure the same on an earlier picture of this place.
        </p>{/if}
      {#if course.otherUnit > 0}
        <p class="text-brass">
          {countWords(course.otherUnit, 'reading is', 'readings are')} in another unit, for want of a scale, and
          left out.
        </p>
      {/if}
      <table class="text-small w-full">
        <thead class="text-ink-soft text-left">
          <tr
            ><th class="font-normal">taken</th><th class="font-normal">value</th><th class="font-normal"
              >looked at by a clinician</th
            ></tr
          >
        </thead>
        <tbody>
          {#each course.points.toReversed() as point (point.readingId)}
            <tr class="border-rule border-t">
              <td class="py-1.5"
                ><a class="underline" href="/visits/{point.visitId}/measure?picture={point.pictureId}"
                  >{dayWords(point.takenAt)}</a
                ></td
              >
              <td class="font-semibold">{readingWords({ ...point, unit })}</td>
              <td>{point.confirmed ? 'yes' : 'not yet'}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
</Dialog>
