<script lang="ts">
  import { Anchor, Volume2, VolumeX } from '@lucide/svelte';
  import { type Notation, showTeeth } from '$core/anatomy/teeth';
  import type { Tray } from '$core/tray/tray';
  import type { DeviceView } from '$lib/server/visits/visits';
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
  }
  let { tray, device, notation, demo, onready, onrest, onanchor, ondemo }: Props = $props();
  let cues = $state(true);
  onMount(() => (cues = cuesAreOn()));

  const slot = $derived(tray.present ? tray.wells[tray.present].slot : null);
  const armedHere = $derived(device !== null && device.slotId !== null);
  const awake = $derived(armedHere && device!.lamp !== 'resting' && device!.lamp !== 'absent');
  const filled = $derived(Object.values(tray.wells).length > 0 && slot === null);
</script>

<aside class="panel flex h-full w-84 shrink-0 flex-col gap-3 overflow-y-auto p-4" aria-label="Next">
  <div>
    <h2 class="heading">{filled ? 'Done' : 'Next'}</h2>
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
  {#if slot}<div class="h-36 shrink-0"><PlacementDrawing {slot} /></div>{/if}
  <div class="mt-auto flex flex-col gap-3">
    {#if device}
      <Lamp lamp={device.lamp} words={device.lampWords} />
      {#if awake}
        <button class="button text-lead min-h-14 w-full" onclick={onrest} data-testid="wide-button"
          >Let it rest</button
        >
      {:else}
        <button
          class="button main text-lead min-h-14 w-full"
          onclick={onready}
          disabled={!slot || device.lamp === 'absent'}
          data-testid="wide-button"
          >{device.armedElsewhere ? 'Take it over for this visit' : 'Get ready'}</button
        >
      {/if}
      <p class="text-small text-ink-soft -mt-1.5">{device.name} · Space, Enter or the pedal do the same</p>
    {:else}
      <p class="text-ink-soft">No device is registered in this room. Files can be brought in.</p>
    {/if}
    <div class="flex gap-2">
      <button class="button flex-1 px-2" onclick={onanchor} disabled={!slot} aria-pressed={tray.anchored}>
        <Anchor size={18} aria-hidden="true" />{tray.anchored ? 'Lift anchor' : 'Anchor here'}
      </button>
      <button
        class="button px-3"
        onclick={() => {
          cues = !cues;
          setCues(cues);
        }}
        aria-label={cues ? 'Turn tones off' : 'Turn tones on'}
        aria-pressed={cues}
      >
        {#if cues}<Volume2 size={18} aria-hidden="true" />{:else}<VolumeX size={18} aria-hidden="true" />{/if}
      </button>
    </div>
    {#if demo && device}
      <div class="border-ink-soft rounded-lg border border-dashed p-2" role="group" aria-label="Demo corner">
        <p class="text-small text-ink-soft mb-1.5">Demo: plays the x-ray button</p>
        <div class="flex gap-2">
          <button
            class="button flex-1 px-2"
            onclick={() => ondemo({ kind: 'demo-expose' })}
            data-testid="demo-expose">Expose</button
          >
          <button class="button flex-1 px-2" onclick={() => ondemo({ kind: 'demo-series', everySeconds: 3 })}
            >Series</button
          >
          <button class="button flex-1 px-2" onclick={() => ondemo({ kind: 'demo-unplug', seconds: 15 })}
            >Unplug</button
          >
        </div>
      </div>
    {/if}
  </div>
</aside>
