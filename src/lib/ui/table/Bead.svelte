<script lang="ts">
  import { ArrowDown, ArrowUp, EllipsisVertical, X } from '@lucide/svelte';
  import {
    type Look,
    type LookStep,
    dropped,
    moved,
    onOwnValues,
    replaced,
    switched
  } from '$core/raster/look/look';
  import Menu from '../kit/Menu.svelte';
  import Slider from '../kit/Slider.svelte';
  import { positionOf, positionsOf, slidersOf, stepWords, valueAt } from './beads';

  interface Props {
    look: Look;
    at: number;
    /** Of the values that the picture has. */
    width: number;
    /** Beyond the knot: it does not count at present. */
    beyond: boolean;
    onlook: (look: Look, done: boolean) => void;
  }
  let { look, at, width, beyond, onlook }: Props = $props();
  const step: LookStep = $derived(look.steps[at]);
  const words = $derived(stepWords(step.kind));
  const on = $derived(!step.off && !beyond);
  const sliders = $derived(slidersOf(step, onOwnValues(look, at) ? width : 1));
  const menu = $derived([
    { words: 'Earlier', icon: ArrowUp, disabled: at === 0, act: () => onlook(moved(look, at, -1), true) },
    {
      words: 'Later',
      icon: ArrowDown,
      disabled: at === look.steps.length - 1,
      act: () => onlook(moved(look, at, 1), true)
    },
    { words: 'Drop', icon: X, testid: 'drop-step', act: () => onlook(dropped(look, at), true) }
  ]);
</script>

<li class="relative pl-11 {on ? '' : 'text-ink-soft'}" data-testid="bead" data-step={step.kind}>
  <button
    class="absolute top-0 left-0 flex size-11 items-center justify-center"
    role="switch"
    aria-checked={!step.off}
    aria-label={words}
    title={step.off ? `Switch ${words} on` : `Switch ${words} off`}
    onclick={() => onlook(switched(look, at), true)}
    data-testid="switch-{step.kind.replace(' ', '-')}"
  >
    <span class="border-ink size-5 rounded-full border-2 {on ? 'bg-ink' : 'bg-sheet border-dashed'}"></span>
  </button>
  <div class="flex min-h-11 items-center gap-1">
    <span class="flex-1 font-semibold {step.off ? 'line-through' : ''}">{words}</span>
    <Menu
      label="What to do with {words}"
      button="flex size-11 items-center justify-center rounded-lg"
      testid="bead-menu"
      items={menu}
    >
      {#snippet trigger()}<EllipsisVertical size={18} aria-hidden="true" />{/snippet}
    </Menu>
  </div>
  {#if on}
    {#each sliders as slider (slider.label)}
      <div class="text-small flex items-center gap-2 pr-2">
        <span class="w-16 shrink-0 leading-tight">{slider.label}</span>
        <Slider
          label="{words}: {slider.label}"
          bind:value={
            () => positionOf(slider),
            (position) => onlook(replaced(look, at, slider.with(valueAt(slider, position))), false)
          }
          least={0}
          most={positionsOf(slider)}
          onchange={(position) => onlook(replaced(look, at, slider.with(valueAt(slider, position))), true)}
        />
        <span class="w-14 shrink-0 text-right tabular-nums">{slider.said(slider.value)}</span>
      </div>
    {/each}
  {/if}
</li>
