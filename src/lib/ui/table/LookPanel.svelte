<script lang="ts">
  import { numberWords } from '../writing';
  import { Eye, Maximize, Plus, WandSparkles } from '@lucide/svelte';
  import { presetLook, presets, withAdded } from '$core/raster/look/starters';
  import { type Look, pulledTo, windowOf, withWindow } from '$core/raster/look/look';
  import Menu from '../kit/Menu.svelte';
  import RangeSlider from '../kit/RangeSlider.svelte';
  import Select from '../kit/Select.svelte';
  import Slider from '../kit/Slider.svelte';
  import Bead from './Bead.svelte';
  import Knot from './Knot.svelte';
  import OwnLooks from './OwnLooks.svelte';
  import { addable } from './beads';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const { edits } = $derived(table);
  const picture = $derived(table.picture!);
  const { look } = $derived(edits);
  const window = $derived(windowOf(look));
  const histogram = $derived(table.histogram);
  const width = $derived(windowOf(picture.firstLook)?.width ?? 2 ** picture.bitsStored);
  const colour = $derived(picture.channels === 3);
  const offered = $derived(
    presets[
      picture.slot?.places.some(({ kind }) => kind === 'tooth' || kind === 'animal tooth') ? 'teeth' : 'bones'
    ]
  );
  const tiltDeg = $derived(edits.orientation.tiltDeg ?? 0);
  let thread = $state<HTMLElement>();
  let message = $state('');
  const counts = $derived(look.knot ?? look.steps.length);
  const set = (next: Look, done: boolean) => edits.setLook(next, done);

  function setWindow([low, high]: [number, number], done: boolean) {
    set(withWindow(look, { center: (low + high) / 2, width: Math.max(1, high - low) }), done);
  }
  function typed(which: 'center' | 'width', text: string) {
    const value = Number(text.trim().replace(',', '.'));
    if (!window) return;
    if (text.trim() === '' || !Number.isFinite(value) || (which === 'width' && value < 1)) {
      message =
        which === 'width'
          ? 'The width is a figure of 1 or more; the one before stays in use.'
          : 'The level is a figure; the one before stays in use.';
      return;
    }
    message = '';
    set(withWindow(look, { ...window, [which]: value }), true);
  }
  /** The histogram as an outline; heights by the root, so that few but telling pixels show. */
  const outline = $derived.by(() => {
    if (!histogram) return '';
    const most = Math.sqrt(Math.max(...histogram.counts));
    const step = 100 / histogram.counts.length;
    const tops = Array.from(histogram.counts, (count, i) => {
      const y = 40 - (38 * Math.sqrt(count)) / most;
      return `L${i * step} ${y}L${(i + 1) * step} ${y}`;
    });
    return `M0 40${tops.join('')}L100 40Z`;
  });
  const inChart = (value: number) =>
    histogram ? (100 * (value - histogram.low)) / (histogram.high - histogram.low) : 0;
</script>

<section class="flex flex-col gap-2">
  {#if picture.kind === 'radiograph'}
    <Select
      label="Look for"
      empty="Look for"
      value=""
      options={offered.map(({ id, words }) => ({ value: id, words }))}
      testid="preset"
      onchange={(id) =>
        set(
          presetLook(
            offered.find((each) => each.id === id)!,
            picture.firstLook
          ),
          true
        )}
    />
  {/if}
  <OwnLooks {table} />
  <div class="flex gap-1.5">
    <button
      class="button text-small flex-1 px-2"
      onclick={() => edits.setLook(null, true)}
      data-testid="first-look"><WandSparkles size={17} aria-hidden="true" />First look</button
    >
    <button
      class="button text-small flex-1 px-2"
      aria-pressed={table.asStored}
      title="While it is held: the picture as it was stored (0)"
      onpointerdown={() => (table.asStored = true)}
      onpointerup={() => (table.asStored = false)}
      onpointerleave={() => (table.asStored = false)}
      onpointercancel={() => (table.asStored = false)}
      onkeydown={({ key }) => (key === ' ' || key === 'Enter') && (table.asStored = true)}
      onkeyup={() => (table.asStored = false)}
      onblur={() => (table.asStored = false)}
      data-testid="as-stored"><Eye size={17} aria-hidden="true" />As stored</button
    >
  </div>
  {#if window && histogram}
    {@const [from, to] = [window.center - window.width / 2, window.center + window.width / 2]}
    <div>
      <svg
        viewBox="0 0 100 40"
        preserveAspectRatio="none"
        class="bg-well h-16 w-full rounded-md"
        role="img"
        aria-label="How often each value occurs, with the window from {Math.round(from)} to {Math.round(to)}"
        data-testid="histogram"
      >
        <rect
          x={Math.max(0, inChart(from))}
          y="0"
          width={Math.max(0, Math.min(100, inChart(to)) - Math.max(0, inChart(from)))}
          height="40"
          class="fill-coral-wash"
        />
        <path d={outline} class="fill-ink-soft" />
        {#each [from, to] as edge, i (i)}
          <line
            x1={inChart(edge)}
            x2={inChart(edge)}
            y1="0"
            y2="40"
            class="stroke-coral"
            stroke-width="2"
            vector-effect="non-scaling-stroke"
          />
        {/each}
      </svg>
      <RangeSlider
        value={[from, to]}
        labels={['Darkest value that shows', 'Brightest value that shows']}
        least={Math.min(histogram.low, Math.floor(from))}
        most={Math.max(histogram.high, Math.ceil(to))}
        onmove={(pair) => setWindow(pair, false)}
        ondone={(pair) => setWindow(pair, true)}
      />
    </div>
    <div class="text-small flex gap-2">
      {#each [['width', 'Width', window.width], ['center', 'Level', window.center]] as const as [which, words, value] (which)}
        <label class="flex min-w-0 flex-1 items-center gap-1.5"
          ><span class="font-semibold">{words}</span>
          <input
            class="border-rule bg-paper min-h-11 w-full min-w-0 rounded-lg border px-2 tabular-nums"
            inputmode="decimal"
            value={Math.round(value * 10) / 10}
            onchange={(event) => typed(which, event.currentTarget.value)}
            data-testid="window-{which}"
          /></label
        >
      {/each}
    </div>
    {#if message}<p role="alert" class="text-small text-brass font-semibold">{message}</p>{/if}
  {/if}
</section>
<section>
  <div class="flex items-center justify-between">
    <h2 class="heading">Thread</h2>
    <Menu
      label="Add an adjustment"
      button="button quiet text-small px-2"
      testid="add-step"
      items={addable
        .filter(({ colourToo }) => colourToo || !colour)
        .map(({ kind, words }) => ({
          words,
          testid: `add-${kind.replace(' ', '-')}`,
          act: () => set(withAdded(look, kind), true)
        }))}
    >
      {#snippet trigger()}<Plus size={16} aria-hidden="true" />Add{/snippet}
    </Menu>
  </div>
  <div class="thread relative" bind:this={thread}>
    <ol>
      {#each look.steps.slice(0, counts) as _, at (at)}
        <Bead {look} {at} {width} beyond={false} onlook={set} />
      {/each}
    </ol>
    <Knot
      knot={counts}
      count={look.steps.length}
      {thread}
      onpull={(knot, done) => set(pulledTo(look, knot), done)}
    />
    <ol start={counts + 1}>
      {#each look.steps.slice(counts) as _, i (counts + i)}
        <Bead {look} at={counts + i} {width} beyond onlook={set} />
      {/each}
    </ol>
  </div>
</section>
<section class="flex flex-col gap-1" data-testid="tilt">
  <div class="flex items-center justify-between">
    <h2 class="heading">Tilt</h2>
    <button
      class="button quiet text-small px-2"
      disabled={tiltDeg === 0}
      onclick={() => edits.tilt(0, true)}
      data-testid="stand-straight">Stand straight</button
    >
  </div>
  <div class="flex items-center gap-2 pr-2">
    <Slider
      label="Tilt in degrees, clockwise"
      bind:value={() => tiltDeg, (deg) => edits.tilt(deg, false)}
      least={-45}
      most={45}
      step={0.1}
      onchange={(deg) => edits.tilt(deg, true)}
    />
    <span class="text-small w-14 shrink-0 text-right tabular-nums" data-testid="tilt-words"
      >{numberWords(tiltDeg, 1).replace('-', '−')}°</span
    >
  </div>
</section>
{#if edits.part}
  <section data-testid="cropped">
    <h2 class="heading mb-1">Crop</h2>
    <p class="text-small text-ink-soft mb-2">
      {Math.round(edits.part.width)} × {Math.round(edits.part.height)} pixels of the picture are shown. The rest
      is kept.
    </p>
    <button class="button w-full" onclick={() => edits.showAll()} data-testid="show-all"
      ><Maximize size={18} aria-hidden="true" />Show all of it</button
    >
  </section>
{/if}

<style>
  /* The thread itself, behind its beads. */
  .thread::before {
    content: '';
    position: absolute;
    top: 0;
    bottom: 22px;
    left: 21px;
    width: 2px;
    background: var(--rule);
  }
</style>
