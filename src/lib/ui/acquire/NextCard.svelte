<script lang="ts">
  import { Anchor, LayoutGrid, Volume2, VolumeX } from '@lucide/svelte';
  import { onMount } from 'svelte';
  import { placesInWords } from '$core/anatomy/place';
  import { projectionWords } from '$core/anatomy/projections';
  import type { Notation } from '$core/anatomy/teeth';
  import { sensorFaults } from '$core/phantom/teeth/faultNames';
  import type { Ref } from '$core/tray/pattern';
  import { type Tray, wellsAlong } from '$core/tray/tray';
  import type { DeviceView } from '$core/visit/visitView';
  import Menu from '../kit/Menu.svelte';
  import Select from '../kit/Select.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { cuesAreOn, setCues } from './cue';
  import Lamp from './Lamp.svelte';
  import Placement from './Placement.svelte';

  export interface PatternChoice {
    pattern: Ref;
    route: Ref;
    name: string;
    slots: number;
  }

  interface Props {
    visitId: string;
    tray: Tray;
    device: DeviceView | null;
    patterns: readonly PatternChoice[];
    notation: Notation;
    demo: boolean;
    mayAcquire: boolean;
    onready: () => void;
    onrest: () => void;
    onanchor: () => void;
    ondemo: (command: object) => void;
    /** A pattern for this tray, or for another one of the visit. */
    onlay: (choice: PatternChoice, another: boolean) => void;
  }
  let {
    visitId,
    tray,
    device,
    patterns,
    notation,
    demo,
    mayAcquire,
    onready,
    onrest,
    onanchor,
    ondemo,
    onlay
  }: Props = $props();
  let cues = $state(true);
  /** What the demo's next exposure suffers from. */
  let fault = $state<string>('good');
  onMount(() => (cues = cuesAreOn()));

  const slot = $derived(tray.present ? tray.wells[tray.present].slot : null);
  const places = $derived(slot ? placesInWords(slot.places, notation) : '');
  const armedHere = $derived(device?.armed?.visitId === visitId);
  const elsewhere = $derived(device?.armed != null && !armedHere);
  const awake = $derived(armedHere && device!.lamp !== 'resting' && device!.lamp !== 'absent');
  /** Another pattern can be laid on this tray until the first take is there; then it makes another tray. */
  const untouched = $derived(
    tray.bench.length === 0 && wellsAlong(tray).every((well) => well.takes.length === 0)
  );
  const filled = $derived(tray.route.length > 0 && slot === null);
  const choices = $derived(
    patterns.map((choice) => ({
      words: untouched ? choice.name : `${choice.name}, as another tray`,
      disabled: untouched && choice.pattern.id === tray.laid?.pattern.id,
      act: () => onlay(choice, !untouched)
    }))
  );
</script>

<aside
  class="panel flex h-full w-80 shrink-0 flex-col gap-2 overflow-y-auto px-4 py-3 xl:w-84"
  aria-label="Next"
>
  <div>
    <div class="flex items-center justify-between gap-2">
      <h2 class="heading">{filled ? 'Done' : 'Next'}</h2>
      {#if mayAcquire && choices.length > 0}
        <Menu
          label={untouched ? 'Lay a pattern' : 'Another tray'}
          items={choices}
          button="button text-small -mt-1 px-3"
          testid="pattern"
        >
          {#snippet trigger()}
            <LayoutGrid size={17} aria-hidden="true" />{tray.laid?.name ?? 'Lay a pattern'}
          {/snippet}
        </Menu>
      {/if}
    </div>
    {#if slot}
      <p class="text-name font-bold" data-testid="next-slot">{slot.name}</p>
      <p class="text-body text-ink-soft">
        {projectionWords(slot.projection)}{places ? `, ${places}` : ''}
      </p>
    {:else if filled}
      <p class="text-name font-bold">Every slot has its take</p>
      <p class="text-ink-soft">Pick a slot to take it again.</p>
    {:else}
      <p class="text-name font-bold">No pattern yet</p>
      <p class="text-ink-soft">Lay one to be led through its slots, or bring in files.</p>
    {/if}
  </div>
  {#if slot}<div class="max-h-40 min-h-0 flex-1"><Placement {slot} {notation} /></div>{/if}
  <div class="mt-auto flex flex-col gap-2.5">
    {#if device}
      <Lamp lamp={elsewhere ? 'elsewhere' : device.lamp} words={device.lampWords} />
    {:else}
      <p class="text-ink-soft">No device is registered in this room. Files can be brought in.</p>
    {/if}
    <div class="flex gap-1.5">
      {#if device && awake}
        <button
          class="button text-lead min-h-14 flex-1"
          onclick={onrest}
          disabled={!mayAcquire}
          data-testid="wide-button">Let it rest</button
        >
      {:else if device}
        <button
          class="button main text-lead min-h-14 flex-1 px-2"
          onclick={onready}
          disabled={!slot || device.lamp === 'absent' || !mayAcquire}
          data-testid="wide-button">{elsewhere ? 'Take it over' : 'Get ready'}</button
        >
      {/if}
      <Tooltip
        words={tray.anchored
          ? 'Lift the anchor: the route goes on'
          : 'Anchor here: takes gather in this slot'}
        button="button min-h-14 px-3 {tray.anchored ? 'border-coral! bg-coral-wash!' : ''}"
        onclick={onanchor}
        disabled={!slot || !mayAcquire}
        pressed={tray.anchored}
        testid="anchor"
      >
        <Anchor size={20} aria-hidden="true" />
      </Tooltip>
      <Tooltip
        words={cues ? 'Turn tones off' : 'Turn tones on'}
        button="button min-h-14 px-3"
        onclick={() => {
          cues = !cues;
          setCues(cues);
        }}
      >
        {#if cues}<Volume2 size={20} aria-hidden="true" />{:else}<VolumeX size={20} aria-hidden="true" />{/if}
      </Tooltip>
    </div>
    {#if device}
      <p class="text-small text-ink-soft -mt-1">
        {elsewhere
          ? `${device.name} waits for another visit.`
          : `${device.name}. Space, Enter or the pedal do the same.`}
      </p>
    {/if}
    {#if demo && device && mayAcquire}
      <div
        class="border-rule flex items-center gap-1.5 border-t border-dashed pt-2"
        role="group"
        aria-label="Demo corner"
      >
        <div class="w-24 shrink-0">
          <Select
            label="How the exposure turns out"
            bind:value={fault}
            small
            options={['good', ...sensorFaults, 'same again'].map((each) => ({ value: each, words: each }))}
          />
        </div>
        <button
          class="button flex-1 px-1"
          onclick={() => ondemo({ kind: 'demo-expose', fault: fault === 'good' ? undefined : fault })}
          data-testid="demo-expose">Expose</button
        >
        <button class="button flex-1 px-1" onclick={() => ondemo({ kind: 'demo-series', everySeconds: 3 })}
          >Series</button
        >
        <button class="button flex-1 px-1" onclick={() => ondemo({ kind: 'demo-unplug', seconds: 15 })}
          >Unplug</button
        >
      </div>
    {/if}
  </div>
</aside>
