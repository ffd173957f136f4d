<script lang="ts">
  import { parseTime } from '@internationalized/date';
  import { TimeField } from 'bits-ui';
  import { segmentLook } from './segments';

  interface Props {
    /** Hours and minutes of 24, HH:MM; may have seconds, which stay as they are. */
    value: string;
    label: string;
    testid?: string;
    onchange: (time: string) => void;
  }
  let { value, label, testid, onchange }: Props = $props();

  function typed(time: { toString(): string } | undefined) {
    const text = time?.toString().slice(0, value.length);
    if (text && text !== value) onchange(text);
  }
</script>

<TimeField.Root value={parseTime(value)} onValueChange={typed} hourCycle={24} locale="en-GB">
  <TimeField.Label class="sr-only">{label}</TimeField.Label>
  <TimeField.Input
    class="border-rule bg-paper flex min-h-11 w-fit items-center rounded-lg border px-2.5"
    data-testid={testid}
  >
    {#snippet children({ segments })}
      {#each segments as { part, value: text }, i (part + i)}
        {#if part === 'literal'}
          <TimeField.Segment {part} class={segmentLook.between}>{text}</TimeField.Segment>
        {:else}
          <TimeField.Segment {part} class={segmentLook.part}>{text}</TimeField.Segment>
        {/if}
      {/each}
    {/snippet}
  </TimeField.Input>
</TimeField.Root>
