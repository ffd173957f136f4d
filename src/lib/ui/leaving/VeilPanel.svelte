<script lang="ts">
  import {
    Copy,
    Crop,
    EyeOff,
    LoaderCircle,
    ScanText,
    ShieldCheck,
    SquareDashed,
    Trash2,
    X
  } from '@lucide/svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { ask, attempt } from '../net/send';
  import { countWords } from '../words';
  import type { VeilDesk } from './veilDesk.svelte';

  interface Props {
    desk: VeilDesk;
    /** Whether names may stand in it, so that somebody has to say that none do. */
    asks: boolean;
    frames: number;
    drawing: 'veil' | 'only' | null;
    picked: number | null;
    /** Others of its series that the same veils could lie on. */
    alike: string[];
    onshow: (frame: number) => void;
    onlaid: (count: number) => void;
  }
  let {
    desk,
    asks,
    frames,
    drawing = $bindable(),
    picked = $bindable(),
    alike,
    onshow,
    onlaid
  }: Props = $props();
  const { veils } = $derived(desk);
  let copying = $state(false);
  let copied = $state('');
  $effect(() => {
    void desk;
    copied = '';
  });
  async function keepCopy() {
    copying = true;
    await attempt(async () => {
      copied = (await ask<{ pictureId: string }>(`/api/pictures/${desk.pictureId}/veiled-copy`, {}))
        .pictureId;
    });
    copying = false;
  }
  const onFrames = (on?: number[]) =>
    on === undefined || frames === 1
      ? ''
      : on.length === 1
        ? `frame ${on[0] + 1}`
        : `${on.length} of ${frames} frames`;
</script>

<section class="flex flex-col gap-2" aria-labelledby="veils-head">
  <h2 id="veils-head" class="text-lead flex items-center gap-2 font-bold">
    <EyeOff size={20} aria-hidden="true" />Veils
    <span class="text-small text-ink-soft font-normal">
      {veils.veils.length + (veils.only ? 1 : 0) === 0
        ? 'nothing is masked'
        : countWords(veils.veils.length + (veils.only ? 1 : 0), 'area masked', 'areas masked')}
    </span>
  </h2>
  <div class="grid grid-cols-3 gap-1.5">
    <button
      class="tool"
      onclick={() => (desk.looking ? desk.stop() : void desk.look())}
      data-testid="find-writing"
    >
      {#if desk.looking}<X size={19} aria-hidden="true" />Stop{:else}<ScanText
          size={19}
          aria-hidden="true"
        />Find writing{/if}
    </button>
    <button
      class="tool {drawing === 'veil' ? 'border-coral! bg-coral-wash!' : ''}"
      aria-pressed={drawing === 'veil'}
      onclick={() => (drawing = drawing === 'veil' ? null : 'veil')}
      data-testid="draw-veil"><SquareDashed size={19} aria-hidden="true" />Draw a veil</button
    >
    <button
      class="tool {drawing === 'only' ? 'border-coral! bg-coral-wash!' : ''}"
      aria-pressed={drawing === 'only'}
      title="Keep only a part of the frame, for a notice along an edge"
      onclick={() => (drawing = drawing === 'only' ? null : 'only')}
      data-testid="keep-only"><Crop size={19} aria-hidden="true" />Keep only</button
    >
  </div>
  {#if desk.looking}
    <p class="text-small text-ink-soft flex items-center gap-2" role="status">
      <LoaderCircle size={17} class="animate-spin" aria-hidden="true" />Looking for writing, and reading it
    </p>
  {:else if desk.trouble}<p class="text-small text-brass font-semibold">{desk.trouble}</p>
  {:else if desk.found}
    {@const { open } = desk}
    <p class="text-small" role="status" data-testid="found-words">
      {#if desk.found.length === 0}No writing was found. Look all the same: not all of it is.
      {:else if open.length === 0}All the writing that was found is masked.
      {:else}<span class="text-brass font-semibold"
          >{countWords(open.length, 'line of writing', 'lines of writing')} found</span
        >{/if}
    </p>
    {#if open.length > 0}
      <ul class="flex flex-col gap-1">
        {#each open as box, i (i)}
          <li
            class="border-brass flex items-center gap-2 rounded-lg border border-dashed pl-3"
            data-testid="found-writing"
          >
            <button class="min-w-0 flex-1 py-1.5 text-left" onclick={() => onshow(box.frames?.[0] ?? 0)}>
              <span class="block truncate font-semibold">{box.says || 'can’t be read'}</span>
              <span class="text-small text-ink-soft block">
                {Math.round(100 * (box.says ? box.saysSure : box.sure))} % sure{onFrames(box.frames)
                  ? `, on ${onFrames(box.frames)}`
                  : ''}{box.reads === 'along' ? '' : ', turned'}
              </span>
            </button>
            <button class="button px-3" onclick={() => void desk.addAll([box])}>Mask</button>
          </li>
        {/each}
      </ul>
      {#if open.length > 1}
        <button class="button" onclick={() => void desk.addAll(open)} data-testid="mask-all"
          >Mask all {open.length}</button
        >
      {/if}
    {/if}
  {/if}
  {#if veils.veils.length + (veils.only ? 1 : 0) > 0}
    <ul class="flex flex-col gap-1">
      {#each veils.veils as veil, i (i)}
        <li
          class="flex items-center gap-2 rounded-lg border pl-3 {picked === i
            ? 'border-coral ring-coral ring-1'
            : 'border-rule'}"
        >
          <button
            class="text-small min-h-11 min-w-0 flex-1 text-left"
            onclick={() => {
              picked = i;
              if (veil.frames) onshow(veil.frames[0]);
            }}
          >
            <span class="font-semibold">Veil {i + 1}</span>
            <span class="text-ink-soft"
              >{veil.width} × {veil.height} px{onFrames(veil.frames)
                ? `, ${onFrames(veil.frames)}`
                : ''}</span
            >
          </button>
          <Tooltip
            words="Take veil {i + 1} off"
            button="flex size-11 items-center justify-center rounded-lg"
            onclick={() => {
              picked = null;
              void desk.drop(i);
            }}><Trash2 size={17} aria-hidden="true" /></Tooltip
          >
        </li>
      {/each}
      {#if veils.only}
        <li class="border-rule flex items-center gap-2 rounded-lg border pl-3">
          <span class="text-small min-w-0 flex-1"
            ><span class="font-semibold">Only a part is kept</span>
            <span class="text-ink-soft">{veils.only.width} × {veils.only.height} px</span></span
          >
          <Tooltip
            words="Keep all of the frame"
            button="flex size-11 items-center justify-center rounded-lg"
            onclick={() => void desk.keepOnly(null)}><Trash2 size={17} aria-hidden="true" /></Tooltip
          >
        </li>
      {/if}
    </ul>
    {#if alike.length > 0}
      <button
        class="button text-small"
        onclick={async () => {
          if (await desk.layOn(alike)) onlaid(alike.length);
        }}
        data-testid="lay-on-series"
        >Lay the same on {countWords(alike.length, 'picture', 'pictures')} like it</button
      >
    {/if}
  {/if}
  {#if veils.looked}
    <p class="text-lagoon flex items-center gap-2 font-semibold" data-testid="looked">
      <ShieldCheck size={18} aria-hidden="true" />Somebody looked: nothing is left in it.
    </p>
    {#if veils.veils.length > 0 || veils.only}
      <button
        class="button text-small"
        disabled={copying}
        onclick={() => void keepCopy()}
        title="The one it is made of stays until somebody deletes it"
        data-testid="keep-veiled"
        ><Copy size={17} aria-hidden="true" />{copying
          ? 'Being made'
          : 'Keep it veiled in the chart too'}</button
      >
      {#if copied}<p class="text-small" role="status" data-testid="kept-veiled">
          Kept as a new picture on the bench of this visit. This one stays until somebody deletes it.
        </p>{/if}
    {/if}
  {:else if asks || veils.veils.length > 0 || veils.only}
    <div class="bg-brass-wash text-brass flex flex-col gap-2 rounded-lg p-3" data-testid="must-look">
      <p class="text-small font-semibold">
        {asks
          ? 'Names, numbers or a face may stand in the picture itself.'
          : 'Say that nothing is left under no veil.'}
      </p>
      <button class="button" onclick={() => void desk.sayLooked()} data-testid="say-looked"
        >I looked: nothing is left in it</button
      >
    </div>
  {/if}
</section>
