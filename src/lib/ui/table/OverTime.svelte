<script lang="ts">
  import { inWords } from '$core/measurement/inWords';
  import type { PictureView } from '$core/picture/pictureView';
  import { readingCourse } from '$core/picture/readingCourse';
  import type { PictureReading } from '$core/picture/readings';
  import CourseChart from '../chart/CourseChart.svelte';
  import { dayWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import { send } from '../net/send';
  import { countWords } from '../words';
  import type { LightTable } from './table.svelte';

  interface Props {
    table: LightTable;
    reading: PictureReading;
    open: boolean;
  }
  let { table, reading, open = $bindable() }: Props = $props();
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
      readingCourse(reading, [
        { ...picture, layers: table.edits.layers },
        ...others.filter(({ pictureId }) => pictureId !== picture.pictureId)
      ])
  );
  const unit = $derived(reading.values[0]?.value.unit ?? '');
  const change = $derived.by(() => {
    if (!course?.change) return '';
    const { value, plusMinus } = course.change;
    const words = `${value > 0 ? '+' : ''}${inWords({ value, plusMinus, unit })}`;
    return Math.abs(value) > plusMinus
      ? `From the first to the last: ${words}. That is more than the measuring itself can make.`
      : `From the first to the last: ${words}. That may be the measuring alone.`;
  });
</script>

<Dialog
  bind:open
  wide
  title="{reading.name} over time"
  message="Readings of this kind{reading.note.name
    ? ' and name'
    : ' without a name'} on pictures of the same place. The band is their ±; hollow ones wait for a clinician."
>
  {#if failed}<p class="text-brass font-semibold" role="alert">{failed}</p>
  {:else if !course}<p class="text-ink-soft">Looking in the chart …</p>
  {:else}
    <div class="flex flex-col gap-3" data-testid="over-time">
      <div class="h-64">
        <CourseChart
          points={course.points}
          {unit}
          label="{reading.name} over time: {course.points
            .map((point) => `${dayWords(point.takenAt)} ${inWords({ ...point, unit })}`)
            .join('; ')}"
        />
      </div>
      {#if change}<p class="font-semibold" data-testid="course-change">{change}</p>
      {:else}<p class="text-ink-soft">
          There is no other time yet. Measure the same on an earlier picture of this place, under the same
          name.
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
              <td class="font-semibold">{inWords({ ...point, unit })}</td>
              <td>{point.confirmed ? 'yes' : 'not yet'}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
  {/if}
</Dialog>
