<script lang="ts">
  import { combine } from '@atlaskit/pragmatic-drag-and-drop/combine';
  import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
  import { ArrowDown, ArrowUp, ChevronDown, ChevronRight, GripVertical } from '@lucide/svelte';
  import type { ReportChoice, ReportSection } from '$core/report/visitReport';
  import { shifted } from '$core/tray/route';
  import Tick from '../kit/Tick.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { countWords } from '../words';

  interface Props {
    /** All that the visit has to put in, in the order that was chosen. */
    sections: readonly ReportSection[];
    choice: ReportChoice;
    may: boolean;
    onchange: (choice: ReportChoice) => void;
  }
  let { sections, choice, may, onchange }: Props = $props();

  let open = $state<string | null>(null);
  let over = $state<string | null>(null);
  const keys = $derived(sections.map(({ key }) => key));
  const isIn = (key: string) => !choice.out.includes(key);
  const put = (key: string, into: boolean) =>
    onchange({ ...choice, out: into ? choice.out.filter((each) => each !== key) : [...choice.out, key] });
  const move = (i: number, by: 1 | -1) => onchange({ ...choice, order: shifted(keys, i, by) });

  function lay(key: string, before: string) {
    const rest = keys.filter((each) => each !== key);
    const downwards = keys.indexOf(key) < keys.indexOf(before);
    const at = rest.indexOf(before) + (downwards ? 1 : 0);
    onchange({ ...choice, order: [...rest.slice(0, at), key, ...rest.slice(at)] });
  }
  const carried = (key: string) => (element: HTMLElement) =>
    may
      ? combine(
          draggable({ element, getInitialData: () => ({ section: key }) }),
          dropTargetForElements({
            element,
            canDrop: ({ source }) => typeof source.data.section === 'string' && source.data.section !== key,
            onDragEnter: () => (over = key),
            onDragLeave: () => (over = null),
            onDrop: ({ source }) => {
              over = null;
              lay(source.data.section as string, key);
            }
          })
        )
      : undefined;

  /** What a finger carries. The list may be drawn anew meanwhile, as by what came in from another room. */
  let carrying: string | null = null;
  /** A finger carries a part by its grip: what lies under the finger takes it. A mouse drags the part itself. */
  const byFinger = (key: string) => (grip: HTMLElement) => {
    const under = ({ clientX, clientY }: PointerEvent) =>
      document.elementFromPoint(clientX, clientY)?.closest<HTMLElement>('[data-testid=report-part]')?.dataset
        .key ?? null;
    const ways: Partial<Record<keyof HTMLElementEventMap, (event: PointerEvent) => void>> = {
      pointerdown(event) {
        if (event.pointerType === 'mouse') return;
        carrying = key;
        grip.setPointerCapture(event.pointerId);
        event.preventDefault();
      },
      pointermove(event) {
        if (carrying === null) return;
        const at = under(event);
        over = at === carrying ? null : at;
      },
      pointerup(event) {
        const [part, at] = [carrying, carrying === null ? null : under(event)];
        carrying = over = null;
        if (part && at && at !== part) lay(part, at);
      },
      pointercancel() {
        carrying = over = null;
      }
    };
    for (const [name, way] of Object.entries(ways)) grip.addEventListener(name, way as EventListener);
    return () => {
      for (const [name, way] of Object.entries(ways)) grip.removeEventListener(name, way as EventListener);
    };
  };

  const unit: Record<ReportSection['kind'], [one: string, many: string]> = {
    words: ['text', 'texts'],
    pictures: ['picture', 'pictures'],
    guide: ['result', 'results'],
    readings: ['reading', 'readings']
  };
  function held({ kind, key, entries }: ReportSection): string {
    const left = entries.filter((entry) => isIn(entry.key)).length;
    const [one, many] = key === 'kept' ? ['view', 'views'] : unit[kind];
    return left === entries.length
      ? countWords(left, one, many)
      : `${left} of ${countWords(entries.length, one, many)}`;
  }
  const small = 'flex size-11 shrink-0 items-center justify-center rounded-lg disabled:opacity-40';
</script>

<ol class="flex flex-col gap-1.5" data-testid="report-parts">
  {#each sections as section, i (section.key)}
    {@const { key, title, entries } = section}
    <li
      class="border-rule bg-sheet rounded-lg border {over === key
        ? 'outline-coral outline-2 outline-dashed'
        : ''}"
      data-testid="report-part"
      data-key={key}
      {@attach carried(key)}
    >
      <div class="flex items-center">
        {#if may}
          <span
            class="text-ink-soft flex h-11 w-7 shrink-0 cursor-grab touch-none items-center justify-center"
            data-testid="part-grip"
            {@attach byFinger(key)}
          >
            <GripVertical size={18} aria-hidden="true" />
          </span>
          <Tick
            checked={isIn(key)}
            label="{title} stands in the report"
            testid="part-in"
            onchange={(into) => put(key, into)}
          />
        {/if}
        <button
          class="flex min-h-13 min-w-0 flex-1 items-center gap-1 py-1 text-left {may ? '' : 'pl-3'}"
          aria-expanded={open === key}
          onclick={() => (open = open === key ? null : key)}
          data-testid="part-open"
        >
          <span class="min-w-0 flex-1 leading-tight {isIn(key) ? '' : 'text-ink-soft'}">
            <span class="block font-semibold">{title}</span>
            <span class="text-small text-ink-soft block">{isIn(key) ? held(section) : 'taken out'}</span>
          </span>
          {#if open === key}<ChevronDown size={18} aria-hidden="true" />{:else}<ChevronRight
              size={18}
              aria-hidden="true"
            />{/if}
        </button>
        {#if may}
          <Tooltip
            words="{title} earlier"
            button={small}
            disabled={i === 0}
            testid="part-up"
            onclick={() => move(i, -1)}><ArrowUp size={18} aria-hidden="true" /></Tooltip
          >
          <Tooltip
            words="{title} later"
            button={small}
            disabled={i === sections.length - 1}
            testid="part-down"
            onclick={() => move(i, 1)}><ArrowDown size={18} aria-hidden="true" /></Tooltip
          >
        {/if}
      </div>
      {#if open === key}
        <ul class="border-rule border-t py-1 pl-5">
          {#each entries as entry (entry.key)}
            <li class="flex items-center">
              {#if may}<Tick
                  checked={isIn(entry.key)}
                  label="{entry.name} stands in the report"
                  testid="entry-in"
                  onchange={(into) => put(entry.key, into)}
                />{/if}
              <span class="py-1 leading-tight {isIn(entry.key) && isIn(key) ? '' : 'text-ink-soft'}"
                >{entry.name}</span
              >
            </li>
          {/each}
        </ul>
      {/if}
    </li>
  {:else}
    <li class="text-ink-soft">
      This visit has nothing to put into a report yet: no word, no picture, no reading.
    </li>
  {/each}
</ol>
