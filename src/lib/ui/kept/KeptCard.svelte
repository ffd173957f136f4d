<script lang="ts">
  import { ArrowDown, ArrowUp, Download, PencilLine } from '@lucide/svelte';
  import type { KeptOf } from '$core/picture/keptViews';
  import { keptKinds } from '$core/picture/layers/kept/kept';
  import { pictureName } from '$core/picture/pictureView';
  import { momentWords } from '../clock';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import Tick from '../kit/Tick.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { theVisit } from '../visit/visitStore.svelte';
  import DrawOnKept from './DrawOnKept.svelte';
  import KeptPicture from './KeptPicture.svelte';
  import { changeKept } from './keptActs';

  interface Props {
    of: KeptOf;
    may: boolean;
    /** Whether it may be taken out. */
    send: boolean;
    chosen: boolean;
    first: boolean;
    last: boolean;
    onchoose: (chosen: boolean) => void;
    onshift: (by: -1 | 1) => void;
  }
  let { of, may, send, chosen, first, last, onchoose, onshift }: Props = $props();
  const store = theVisit();
  const { picture, kept } = $derived(of);
  const name = $derived(kept.name || pictureName(picture));
  const change = (by: Parameters<typeof changeKept>[2]) => changeKept(store, [of], by);
  let drawing = $state(false);
  const small = 'flex size-11 items-center justify-center rounded-lg disabled:opacity-40';
  const who = $derived(of.by ? picture.people[of.by] || 'somebody' : 'you');
</script>

<li
  class="bg-sheet flex flex-col overflow-hidden rounded-xl border {chosen
    ? 'border-coral ring-coral ring-2'
    : 'border-rule'}"
  data-testid="kept-card"
  data-kept={of.id}
>
  <a
    href="/visits/{picture.visitId}/measure?picture={picture.pictureId}"
    class="bg-stage flex h-64 items-center justify-center"
    title="Open the picture it was made of"
    ><KeptPicture {of} most={{ width: 348, height: 256 }} alt="{name}, {kept.kind}" /></a
  >
  <div class="flex items-center gap-0.5 px-2 pt-1">
    <Tick checked={chosen} label="Choose {name}" testid="kept-choose" onchange={onchoose} />
    {#if may}
      <input
        class="border-rule bg-paper min-h-11 min-w-0 flex-1 rounded-lg border px-2 font-semibold"
        value={kept.name}
        placeholder={pictureName(picture)}
        maxlength={80}
        aria-label="Name of this kept view"
        onchange={({ currentTarget }) => change({ name: currentTarget.value.trim() })}
        data-testid="kept-name"
      />
      <Tooltip words="{name} earlier" button={small} disabled={first} onclick={() => onshift(-1)}
        ><ArrowUp size={18} aria-hidden="true" /></Tooltip
      >
      <Tooltip words="{name} later" button={small} disabled={last} onclick={() => onshift(1)}
        ><ArrowDown size={18} aria-hidden="true" /></Tooltip
      >
    {:else}<h2 class="min-w-0 flex-1 font-semibold">{name}</h2>{/if}
  </div>
  <div class="flex flex-col gap-1.5 px-3 pt-1 pb-3">
    {#if may}
      <div class="flex items-center gap-3">
        <div class="w-36">
          <Select
            label="What it is for"
            small
            value={kept.kind}
            options={keptKinds.map((kind) => ({ value: kind, words: kind }))}
            onchange={(kind) => change({ kind })}
            testid="kept-kind"
          />
        </div>
        {#if kept.drawings.length > 0}<Switch
            bind:checked={() => kept.drawn, (drawn) => change({ drawn })}
            words="Drawings"
            testid="kept-drawn"
          />{/if}
      </div>
      <input
        class="border-rule bg-paper text-small min-h-11 rounded-lg border px-2"
        value={kept.remark}
        placeholder="What it shows"
        maxlength={500}
        aria-label="What {name} shows"
        onchange={({ currentTarget }) => change({ remark: currentTarget.value.trim() })}
        data-testid="kept-remark"
      />
    {:else}<p class="text-small">{[kept.kind, kept.remark].filter(Boolean).join('. ')}</p>{/if}
    <div class="flex items-center gap-2">
      <p class="text-small text-ink-soft flex-1">
        <a class="underline" href="/visits/{picture.visitId}/measure?picture={picture.pictureId}"
          >{pictureName(picture)}</a
        >, kept by {who}, {momentWords(kept.keptAt)}
      </p>
      {#if may}<button
          class="button px-3"
          onclick={() => (drawing = true)}
          aria-label="Draw on {name}"
          title="Draw on it"
          data-testid="kept-draw"><PencilLine size={18} aria-hidden="true" /></button
        >{/if}
      {#if send}<a
          class="button px-3"
          href="/api/pictures/{picture.pictureId}/out?as=png&kept={of.id}{kept.drawn ? '&drawings=yes' : ''}"
          download
          data-sveltekit-reload
          aria-label="Take {name} out as a PNG"
          title="Take it out as a PNG"
          data-testid="kept-out"><Download size={18} aria-hidden="true" /></a
        >{/if}
    </div>
  </div>
</li>
{#if drawing}<DrawOnKept {of} bind:open={drawing} />{/if}
