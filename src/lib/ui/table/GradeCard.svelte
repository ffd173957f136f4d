<script lang="ts">
  import { type Grade, type GradeReason, gradeReasons, grades } from '$core/picture/gradeReasons';
  import Choice from '../kit/Choice.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const graded = $derived(table.picture!.layers.grade);
  const keys: Record<Grade, string> = { diagnostic: 'D', limited: 'L', 'not diagnostic': 'N' };
  const short: Record<Grade, string> = { diagnostic: 'Good', limited: 'Limited', 'not diagnostic': 'No use' };

  const toggled = (reason: GradeReason): GradeReason[] =>
    graded!.reasons.includes(reason)
      ? graded!.reasons.filter((each) => each !== reason)
      : [...graded!.reasons, reason];
</script>

<section aria-label="Grade">
  <h2 class="heading mb-1.5">Grade</h2>
  {#if table.may.changePictures}
    <Choice
      label="How well it serves"
      testid="grade"
      small
      bind:value={() => graded?.grade ?? ('' as Grade), (grade) => table.grade(grade)}
      options={grades.map((value) => ({ value, words: short[value], key: keys[value] }))}
    />
    {#if graded && graded.grade !== 'diagnostic'}
      <div class="mt-2 flex flex-wrap gap-1" role="group" aria-label="Why">
        {#each gradeReasons as reason (reason)}
          {@const is = graded.reasons.includes(reason)}
          <button
            class="text-small min-h-11 rounded-full border px-2.5 font-semibold {is
              ? 'border-ink bg-ink text-paper'
              : 'border-rule bg-sheet'}"
            aria-pressed={is}
            onclick={() => table.setGrade({ grade: graded.grade, reasons: toggled(reason) })}
            data-testid="reason">{reason}</button
          >
        {/each}
      </div>
    {/if}
  {:else}
    <p class="font-semibold">{graded ? graded.grade : 'Not graded'}</p>
    {#if graded && graded.reasons.length > 0}<p class="text-small">{graded.reasons.join(', ')}</p>{/if}
  {/if}
</section>
