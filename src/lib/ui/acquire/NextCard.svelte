<script lang="ts">
  import { Anchor, Volume2, VolumeX } from '@lucide/svelte';
  import { type Notation, showTeeth } from '$core/anatomy/teeth';
  import { sensorFaults } from '$core/phantom/teeth/faultNames';
  import { type PatternName, patternNames, patterns } from '$core/tray/patterns';
  import type { Tray } from '$core/tray/tray';
  import type { DeviceView } from '$core/visit/visitView';
  import { onMount } from 'svelte';
  import { cuesAreOn, setCues } from './cue';
  import Lamp from './Lamp.svelte';
  import PlacementDrawing from './PlacementDrawing.svelte';

  interface Props {
    tray: Tray;
    device: DeviceView | null;
    notation: Notation;
    demo: boolean;
    onready: () => void;
    onrest: () => void;
    onanchor: () => void;
    ondemo: (command: object) => void;
    onlay: (pattern: PatternName) => void;
  }
  let { tray, device, notation, demo, onready, onrest, onanchor, ondemo, onlay }: Props = $props();
  let cues = $state(true);
  /** What the demo's next exposure suffers from. */
  let fault = $state('');
  onMount(() => (cues = cuesAreOn()));

  const slot = $derived(tray.present ? tray.wells[tray.present].slot : null);
  const armedHere = $derived(device !== null && device.slotId !== null);
  const awake = $derived(armedHere && device!.lamp !== 'resting' && device!.lamp !== 'absent');
  /** Another pattern can be laid until the first take is there. */
  const untouched = $derived(
    tray.route.length > 0 && Object.values(tray.wells).every((well) => well.takes.length === 0)
  );
  const filled = $derived(Object.values(tray.wells).length > 0 && slot === null);
</script>

<aside class="panel flex h-full w-84 shrink-0 flex-col gap-2 overflow-y-auto px-4 py-3" aria-label="Next">
  <div>
    <div class="flex items-center justify-between gap-2">
      <h2 class="heading">{filled ? 'Done' : 'Next'}</h2>
      {#if untouched}
        <label class="sr-only" for="pattern">Pattern of this visit</label>
        <select
          id="pattern"
          class="border-rule bg-paper text-small -my-1 min-h-11 rounded-lg border px-2"
          onchange={(event) => onlay(event.currentTarget.value as PatternName)}
          data-testid="pattern"
        >
          {#each patternNames as each (each)}
            <option value={each} selected={patterns[each].name === tray.pattern}>{patterns[each].name}</option
            >
          {/each}
        </select>
      {/if}
    </div>
    {#if slot}
      <p class="text-name font-bold" data-testid="next-slot">{slot.name}</p>
      <p class="text-body text-ink-soft">{slot.projection}, teeth {showTeeth(slot.teeth, notation)}</p>
    {:else if filled}
      <p class="text-name font-bold">Every slot is taken</p>
      <p class="text-ink-soft">Pick a slot to take it again.</p>
    {:else}
      <p class="text-ink-soft">This room’s visits begin without a tray.</p>
    {/if}
  </div>
  {#if slot}<div class="max-h-32 min-h-0 flex-1"><PlacementDrawing {slot} /></div>{/if}
  <div class="mt-auto flex flex-col gap-2.5">
    {#if device}
      <Lamp lamp={device.armedElsewhere ? 'elsewhere' : device.lamp} words={device.lampWords} />
    {:else}
      <p class="text-ink-soft">No device is registered in this room. Files can be brought in.</p>
    {/if}
    <div class="flex gap-1.5">
      {#if device && awake}
        <button class="button text-lead min-h-14 flex-1" onclick={onrest} data-testid="wide-button"
          >Let it rest</button
        >
      {:else if device}
        <button
          class="button main text-lead min-h-14 flex-1 px-2"
          onclick={onready}
          disabled={!slot || device.lamp === 'absent'}
          data-testid="wide-button">{device.armedElsewhere ? 'Take it over' : 'Get ready'}</button
        >
      {/if}
      <button
        class="button min-h-14 px-3 {tray.anchored ? 'border-coral! bg-coral-wash!' : ''}"
        onclick={onanchor}
        disabled={!slot}
        aria-pressed={tray.anchored}
        aria-label={tray.anchored
          ? 'Lift the anchor: the route goes on'
          : 'Anchor here: takes gather in this slot'}
        title={tray.anchored ? 'Lift the anchor' : 'Anchor here'}
      >
        <Anchor size={20} aria-hidden="true" />
      </button>
      <button
        class="button min-h-14 px-3"
        onclick={() => {
          cues = !cues;
          setCues(cues);
        }}
        aria-label={cues ? 'Turn tones off' : 'Turn tones on'}
        title={cues ? 'Turn tones off' : 'Turn tones on'}
      >
        {#if cues}<Volume2 size={20} aria-hidden="true" />{:else}<VolumeX size={20} aria-hidden="true" />{/if}
      </button>
    </div>
    {#if device}
      <p class="text-small text-ink-soft -mt-1">
        {device.armedElsewhere
          ? `${device.name} waits for another visit.`
          : `${device.name}. Space, Enter or the pedal do the same.`}
      </p>
    {/if}
    {#if demo && device}
      <div
        class="border-rule flex items-center gap-1.5 border-t border-dashed pt-2"
        role="group"
        aria-label="Demo corner"
      >
        <label class="sr-only" for="demo-fault">How the exposure turns out</label>
        <select
          id="demo-fault"
          bind:value={fault}
          class="border-rule bg-paper text-small min-h-11 w-19 min-w-0 rounded-lg border px-1"
        >
          <option value="">good</option>
          {#each [...sensorFaults, 'same again'] as each (each)}<option>{each}</option>{/each}
        </select>
        <button
          class="button flex-1 px-1"
          onclick={() => ondemo({ kind: 'demo-expose', fault: fault || undefined })}
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
