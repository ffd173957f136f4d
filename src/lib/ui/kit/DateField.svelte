<script lang="ts">
  import { type DateValue, parseDate } from '@internationalized/date';
  import { CalendarDays, ChevronLeft, ChevronRight } from '@lucide/svelte';
  import { DatePicker } from 'bits-ui';
  import { segmentLook } from './segments';
  import { popups } from './popups';

  interface Props {
    /** A calendar day, YYYY-MM-DD. */
    value: string;
    label: string;
    /** What it is written in, as a BCP 47 tag. */
    language: string;
    testid?: string;
    onchange: (day: string) => void;
  }
  let { value, label, language, testid, onchange }: Props = $props();

  /** A year of fewer than four digits is still being typed. */
  const leastYear = 1900;
  function chosen(day: DateValue | undefined) {
    if (!day || day.year < leastYear || day.toString() === value) return;
    onchange(day.toString());
  }
</script>

<DatePicker.Root
  value={parseDate(value)}
  onValueChange={chosen}
  weekdayFormat="short"
  weekStartsOn={1}
  locale={language}
  fixedWeeks
>
  <DatePicker.Label class="sr-only">{label}</DatePicker.Label>
  <div
    class="border-rule bg-paper flex min-h-11 w-fit items-center rounded-lg border pl-2.5"
    data-testid={testid}
  >
    <DatePicker.Input class="flex items-center">
      {#snippet children({ segments })}
        {#each segments as { part, value: text }, i (part + i)}
          {#if part === 'literal'}
            <DatePicker.Segment {part} class={segmentLook.between}>{text}</DatePicker.Segment>
          {:else}
            <DatePicker.Segment {part} class={segmentLook.part}>{text}</DatePicker.Segment>
          {/if}
        {/each}
      {/snippet}
    </DatePicker.Input>
    <DatePicker.Trigger class="flex size-11 items-center justify-center" aria-label="Open the calendar">
      <CalendarDays size={19} aria-hidden="true" />
    </DatePicker.Trigger>
  </div>
  <DatePicker.Portal to={popups}>
    <DatePicker.Content class="panel z-50 p-3 shadow-lg" sideOffset={6}>
      <DatePicker.Calendar>
        {#snippet children({ months, weekdays })}
          <DatePicker.Header class="flex items-center justify-between">
            <DatePicker.PrevButton class="button quiet px-2.5" aria-label="The month before"
              ><ChevronLeft size={19} aria-hidden="true" /></DatePicker.PrevButton
            >
            <DatePicker.Heading class="font-bold" />
            <DatePicker.NextButton class="button quiet px-2.5" aria-label="The month after"
              ><ChevronRight size={19} aria-hidden="true" /></DatePicker.NextButton
            >
          </DatePicker.Header>
          {#each months as month (month.value.toString())}
            <DatePicker.Grid class="mt-1 border-collapse select-none">
              <DatePicker.GridHead>
                <DatePicker.GridRow class="flex">
                  {#each weekdays as day, i (i)}
                    <DatePicker.HeadCell class="text-small text-ink-soft w-11 font-semibold"
                      >{day.slice(0, 2)}</DatePicker.HeadCell
                    >
                  {/each}
                </DatePicker.GridRow>
              </DatePicker.GridHead>
              <DatePicker.GridBody>
                {#each month.weeks as week (week[0].toString())}
                  <DatePicker.GridRow class="flex">
                    {#each week as date (date.toString())}
                      <DatePicker.Cell {date} month={month.value} class="size-11 p-0.5">
                        <DatePicker.Day
                          class="data-[outside-month]:text-ink-soft data-[selected]:bg-ink data-[selected]:text-paper data-[today]:border-coral hover:bg-tray flex size-full items-center justify-center rounded-lg border-2 border-transparent font-semibold data-[outside-month]:font-normal"
                        />
                      </DatePicker.Cell>
                    {/each}
                  </DatePicker.GridRow>
                {/each}
              </DatePicker.GridBody>
            </DatePicker.Grid>
          {/each}
        {/snippet}
      </DatePicker.Calendar>
    </DatePicker.Content>
  </DatePicker.Portal>
</DatePicker.Root>
