<script lang="ts">
  import { magnificationOf } from '$core/calibration/markerSearch';
  import { coverageFactor } from '$core/measurement/measured';
  import { type BoneHeight, type MarkerGiven, boneWords, seenOf } from '$core/picture/layers/scale/scale';
  import TextField from '../kit/TextField.svelte';
  import { typedNumber } from '../words';
  import type { LightTable } from './table.svelte';

  let { table, given }: { table: LightTable; given: MarkerGiven } = $props();
  const picture = $derived(table.picture!);

  /** So far a tube hangs from the detector (mm) where neither a file nor a person says how far. */
  const usualDistance = { mm: 1150, plusMinusMm: 150 };
  /** A distance that a file or a person does say. */
  const saidPlusMinusMm = 20;
  /** What was laid at a bone's height by eye is there, give or take so much. */
  const byEyeMm = 10;
  /** No bone lies further than about this from something beside it. */
  const anywhereMm = 60;

  let towards = $state<'detector' | 'tube' | null>(null);
  let isAsked = $state(false);
  let apart = $state('');
  let plusMinus = $state(String(byEyeMm));
  let distance = $state('');
  let message = $state('');

  function say(apartMm: number, plusMinusMm: number) {
    const typed = typedNumber(distance);
    const { mm, plusMinusMm: usually } = usualDistance;
    const isTyped = distance.trim() !== '';
    const imaged = magnificationOf({ ...given, sizeMm: given.knownMm }, seenOf(given), picture.fileScale);
    const bone: BoneHeight = {
      apartMm,
      plusMinusMm,
      sourceToDetectorMm: isTyped ? typed : (picture.sourceToDetectorMm ?? mm),
      sourcePlusMinusMm: isTyped || picture.sourceToDetectorMm ? saidPlusMinusMm : usually,
      magnification: imaged && { value: imaged.value, uncertainty: imaged.plusMinus / coverageFactor }
    };
    table.sayBone(bone);
    [towards, isAsked, message] = [null, false, ''];
  }

  function use(event: SubmitEvent) {
    event.preventDefault();
    const [mm, about, from] = [typedNumber(apart), typedNumber(plusMinus), typedNumber(distance)];
    const fits = distance.trim() === '' || (from >= 300 && from <= 5000);
    if (!(mm > 0 && mm <= 250)) message = 'Enter how far apart they lie: above 0 and up to 250 mm.';
    else if (!(about >= 0 && about <= 250)) message = 'Enter how sure that is: 0 to 250 mm.';
    else if (!fits)
      message = 'A tube hangs 300 to 5000 mm from the detector. Correct that, or leave it empty.';
    else say(towards === 'detector' ? mm : -mm, about);
  }
</script>

<section class="border-rule flex flex-col gap-2 border-t pt-3" data-testid="bone-height">
  <h2 class="heading">Height of the bone</h2>
  {#if given.bone && !isAsked}
    {@const words = boneWords(given.bone)}
    <p class="text-small">{words[0].toUpperCase()}{words.slice(1)}.</p>
    {#if table.may.changePictures}
      <button class="button" onclick={() => (isAsked = true)} data-testid="bone-again">Say it anew</button>
    {/if}
  {:else if !table.may.changePictures}
    <p class="text-small text-brass font-semibold">Nobody has said how high the bone lies.</p>
  {:else}
    <p class="text-small {given.bone ? '' : 'text-brass font-semibold'}">
      The scale holds where the marker lies. Where does the bone lie?
    </p>
    <div class="grid grid-cols-2 gap-1.5">
      <button class="button px-2" onclick={() => say(0, byEyeMm)} data-testid="bone-same">As high</button>
      <button class="button px-2" onclick={() => say(0, anywhereMm)} data-testid="bone-unknown"
        >Not known</button
      >
      {#each ['detector', 'tube'] as const as side (side)}
        <button
          class="button px-2 leading-tight {towards === side ? 'border-coral! bg-coral-wash!' : ''}"
          aria-pressed={towards === side}
          onclick={() => (towards = side)}
          data-testid="bone-{side}">Nearer the {side}</button
        >
      {/each}
    </div>
    {#if towards}
      <form onsubmit={use} class="flex flex-col gap-2">
        <div class="grid grid-cols-2 gap-1.5">
          <TextField label="by, in mm" bind:value={apart} figure first testid="bone-apart" />
          <TextField label="give or take" bind:value={plusMinus} figure />
        </div>
        <TextField
          label="Tube to detector, in mm"
          bind:value={distance}
          figure
          example={picture.sourceToDetectorMm
            ? `${picture.sourceToDetectorMm}, by the file`
            : `about ${usualDistance.mm}`}
          testid="bone-distance"
        />
        {#if message}<p role="alert" class="text-small text-brass font-semibold">{message}</p>{/if}
        <button class="button main" data-testid="use-bone">Bring the scale to the bone</button>
      </form>
    {/if}
  {/if}
</section>
