<script lang="ts">
  import { Anchor, Camera, LayoutGrid, Speech, Volume2, VolumeX } from '@lucide/svelte';
  import { onMount } from 'svelte';
  import { placesInWords } from '$core/anatomy/place';
  import { projectionWords } from '$core/anatomy/projections';
  import type { Notation } from '$core/anatomy/teeth';
  import { readsOntoBench } from '$core/devices/deviceKind';
  import Menu from '../kit/Menu.svelte';
  import Select from '../kit/Select.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import type { Chair } from './chair.svelte';
  import { type CueKind, cue, cueKind, cueWords, setCueKind } from './cue';
  import DemoCorner from './DemoCorner.svelte';
  import DeviceChoice from './DeviceChoice.svelte';
  import Lamp from './Lamp.svelte';
  import Placement from './Placement.svelte';

  interface Props {
    chair: Chair;
    visitId: string;
    /** Why the patient comes. */
    reason: string;
    notation: Notation;
    demo: boolean;
    mayAcquire: boolean;
    /** The camera is on the stage. */
    live: boolean;
    onwhat: () => void;
    oncamera: () => void;
  }
  let { chair, visitId, reason, notation, demo, mayAcquire, live, onwhat, oncamera }: Props = $props();
  const leastDrawingPx = 72;
  let cues = $state<CueKind>('tones');
  const CueIcon = $derived({ tones: Volume2, words: Speech, none: VolumeX }[cues]);
  function choose(kind: CueKind) {
    cues = kind;
    setCueKind(kind);
    cue('ready');
  }
  let room = $state(leastDrawingPx);
  onMount(() => (cues = cueKind()));

  const { tray, slot, device, fitting } = $derived(chair);
  const places = $derived(slot ? placesInWords(slot.places, notation) : '');
  const armedHere = $derived(device?.armed?.visitId === visitId);
  const elsewhere = $derived(device?.armed != null && !armedHere);
  const awake = $derived(armedHere && device!.lamp !== 'resting' && device!.lamp !== 'absent');
  const filled = $derived(tray.route.length > 0 && slot === null);
  /** No device of the room is asked: the browser's own cameras take it. */
  const photographs = $derived(
    slot?.projection === 'photograph' && !awake && fitting.every(({ kind }) => kind === 'folder')
  );
  /** It goes on though no slot is empty. */
  const ontoBench = $derived(filled && device !== null && readsOntoBench(device.kind));
  const undecided = $derived(slot !== null && device === null && fitting.length > 1);
</script>

<aside
  class="panel flex h-full w-80 shrink-0 flex-col gap-2 overflow-y-auto px-4 py-3 xl:w-84"
  aria-label="Next"
>
  <div>
    <div class="flex items-center justify-between gap-2">
      <h2 class="heading">{filled ? 'Done' : 'Next'}</h2>
      {#if mayAcquire}
        <button class="button text-small -mt-1 max-w-52 px-3" onclick={onwhat} data-testid="pattern">
          <LayoutGrid size={17} class="shrink-0" aria-hidden="true" /><span class="truncate"
            >{tray.laid?.name ?? 'What to take'}</span
          >
        </button>
      {/if}
    </div>
    {#if slot}
      <p class="text-name font-bold" data-testid="next-slot">{slot.name}</p>
      <p class="text-body text-ink-soft">
        {projectionWords(slot.projection)}{places ? `, ${places}` : ''}
      </p>
    {:else if filled}
      <p class="text-name font-bold">Every slot has its take</p>
      <p class="text-ink-soft">
        {ontoBench ? 'Plates that are read now lie on the bench.' : 'Pick a slot to take it again.'}
      </p>
    {:else}
      <p class="text-name font-bold">Nothing asked yet</p>
      <p class="text-ink-soft">
        {reason ? `Here for: ${reason}. ` : ''}Say what to take, or bring in files.
      </p>
      {#if mayAcquire}
        <button class="button main mt-3 w-full" onclick={onwhat} data-testid="what">What to take</button>
      {/if}
    {/if}
  </div>
  {#if slot}
    <!-- Where there is no room for a drawing that says something, there is none. -->
    <div class="max-h-40 min-h-0 flex-1" bind:clientHeight={room}>
      {#if room >= leastDrawingPx}<Placement {slot} {notation} />{/if}
    </div>
  {/if}
  <div class="mt-auto flex flex-col gap-2.5 [@media(max-height:780px)]:gap-1.5">
    {#if photographs && live}
      <p class="text-ink-soft">The camera is open: Space, Enter or the pedal takes a still.</p>
    {:else if photographs}
      <p class="text-ink-soft">With a camera of this machine, a phone, or files that are brought in.</p>
      <button
        class="button main text-lead min-h-14"
        onclick={oncamera}
        disabled={!mayAcquire}
        data-testid="open-camera"><Camera size={21} aria-hidden="true" />Open the camera</button
      >
    {:else if slot && fitting.length === 0}
      <p class="text-brass font-semibold">
        No device of this room takes {projectionWords(slot.projection)} pictures. Bring in files, or pass this slot
        over.
      </p>
    {:else if device}
      <Lamp lamp={elsewhere ? 'elsewhere' : device.lamp} words={device.lampWords} />
    {:else if !undecided}
      <p class="text-ink-soft">No device is registered in this room. Files can be brought in.</p>
    {/if}
    <div class="flex flex-wrap gap-1.5 *:min-w-36 *:flex-1">
      {#if slot}
        <DeviceChoice
          {fitting}
          chosen={device}
          bind:keep={chair.keep}
          disabled={!mayAcquire}
          onchoose={(deviceId) => chair.choose(deviceId)}
        />
      {/if}
      {#if device && device.finenesses.length > 1}
        <Select
          small
          label="How fine it reads"
          testid="fineness"
          value={device.fineness ?? ''}
          disabled={!mayAcquire}
          options={device.finenesses.map((each) => ({
            value: each.id,
            words: `${each.words}, ${each.secondsPerPlate} s`,
            detail: `${Math.round(each.pitchMm * 1000)} µm, ${each.secondsPerPlate} s a plate`
          }))}
          onchange={(fineness) => void chair.tell({ kind: 'fineness', fineness })}
        />
      {/if}
    </div>
    <div class="flex gap-1.5">
      {#if device && awake}
        <button
          class="button text-lead min-h-14 flex-1"
          onclick={() => chair.rest()}
          disabled={!mayAcquire}
          data-testid="wide-button">Let it rest</button
        >
      {:else if device && !photographs && (fitting.length > 0 || !slot)}
        <button
          class="button main text-lead min-h-14 flex-1 px-2"
          onclick={() => void chair.ready()}
          disabled={(!slot && !ontoBench) || device.lamp === 'absent' || !mayAcquire}
          data-testid="wide-button">{elsewhere ? 'Take it over' : 'Get ready'}</button
        >
      {:else}<span class="flex-1"></span>{/if}
      <Tooltip
        words={tray.anchored
          ? 'Lift the anchor: the route goes on'
          : 'Anchor here: takes gather in this slot'}
        key="A"
        button="button min-h-14 px-3 {tray.anchored ? 'border-coral! bg-coral-wash!' : ''}"
        onclick={() => chair.anchor()}
        disabled={!slot || !mayAcquire}
        pressed={tray.anchored}
        testid="anchor"
      >
        <Anchor size={20} aria-hidden="true" />
      </Tooltip>
      <Tooltip
        words="Camera"
        key="C"
        button="button min-h-14 px-3"
        onclick={oncamera}
        disabled={!mayAcquire}
        testid="camera-button"
      >
        <Camera size={20} aria-hidden="true" />
      </Tooltip>
      <Menu
        label="Cues: {cueWords[cues]}"
        button="button min-h-14 px-3"
        testid="cues"
        items={[
          { words: cueWords.tones, icon: Volume2, act: () => choose('tones'), testid: 'cues-tones' },
          { words: cueWords.words, icon: Speech, act: () => choose('words'), testid: 'cues-words' },
          { words: cueWords.none, icon: VolumeX, act: () => choose('none'), testid: 'cues-none' }
        ]}
      >
        {#snippet trigger()}<CueIcon size={20} aria-hidden="true" />{/snippet}
      </Menu>
    </div>
    {#if device && !photographs}
      <!-- On a low screen what is said of keys gives way; whom a device waits for never does. -->
      <p class="text-small text-ink-soft -mt-1 {elsewhere ? '' : '[@media(max-height:780px)]:hidden'}">
        {elsewhere
          ? `${device.name} waits for ${device.armed!.patient}${device.armed!.by ? ` (${device.armed!.by})` : ''}.`
          : `${device.name}. Space, Enter or the pedal do the same.`}
      </p>
    {/if}
    {#if demo && device && mayAcquire}
      <DemoCorner {device} tell={(body) => void chair.tell(body)} />
    {/if}
  </div>
</aside>
