<script lang="ts">
  import { Check, Columns2, Link2, Star, Undo2 } from '@lucide/svelte';
  import { wellsAlong } from '$core/tray/tray';
  import { clockWords, momentWords } from '../clock';
  import Switch from '../kit/Switch.svelte';
  import Findings from './Findings.svelte';
  import GradeCard from './GradeCard.svelte';
  import PutRight from './PutRight.svelte';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  let righting = $state(false);
  const { store, may } = $derived(table);
  const picture = $derived(table.picture!);
  const well = $derived(table.well);
  const isKeeper = $derived(well?.keeper === picture.pictureId);
  const open = $derived(
    store.trays
      .flatMap(({ tray }) => wellsAlong(tray))
      .filter(
        ({ keeper, confirmed }) => keeper !== null && confirmed === null && keeper !== picture.pictureId
      )
  );
  const confirmer = $derived.by(() => {
    const confirmed = well?.confirmed;
    if (!confirmed) return '';
    return confirmed.name ?? store.people[confirmed.by ?? ''] ?? 'a clinician';
  });
  const wish = (body: Parameters<typeof store.wish>[1], words: string) =>
    store.wish(picture.trayId!, body, words);

  function confirm() {
    const next = open[0]?.keeper;
    const { slot } = well!;
    void wish(
      { kind: 'keeper-confirmed', slotId: slot.id, takeId: picture.pictureId },
      `Confirming ${slot.name}`
    );
    if (next) table.show(next);
  }
</script>

<dl class="text-small grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
  <dt class="text-ink-soft">taken</dt>
  <dd class="font-semibold">{momentWords(picture.takenAt)}</dd>
  <dt class="text-ink-soft">from</dt>
  <dd class="font-semibold break-words">{picture.from === 'file' ? picture.fileName : picture.from}</dd>
  <dt class="text-ink-soft">picture</dt>
  <dd class="font-semibold">
    {picture.width} x {picture.height}, {picture.bitsStored} bit{picture.channels === 3
      ? ' colour'
      : ''}{picture.frames > 1 ? `, ${picture.frames} frames` : ''}
  </dd>
</dl>
{#if picture.layers.about?.remark}<p class="text-small">{picture.layers.about.remark}</p>{/if}
{#each picture.remarks as remark (remark)}<p
    class="bg-brass-wash text-small text-brass rounded-lg px-3 py-2 font-semibold"
  >
    {remark}
  </p>{/each}
<GradeCard {table} />
{#if well && well.takes.length > 1}
  <div>
    <h2 class="heading mb-1.5">Takes in this slot</h2>
    <ul class="flex flex-col gap-1">
      {#each well.takes as takeId, i (takeId)}
        {@const take = store.picture(takeId)}
        <li class="flex items-center gap-1">
          <button
            class="button quiet flex-1 justify-start px-2 {takeId === picture.pictureId ? 'bg-tray!' : ''}"
            onclick={() => table.show(takeId)}
          >
            Take {i + 1}{take ? `, ${clockWords(take.takenAt)}` : ''}
          </button>
          {#if takeId === well.keeper}
            <span class="chip bg-lagoon-wash text-lagoon"><Star size={14} aria-hidden="true" />keeper</span>
          {:else if may.changePictures}
            <button
              class="button px-2.5"
              onclick={() =>
                wish({ kind: 'keeper-chosen', slotId: well.slot.id, takeId }, `Keeper of ${well.slot.name}`)}
              >Keep this</button
            >
          {/if}
        </li>
      {/each}
    </ul>
    <div class="mt-1 flex items-center gap-2">
      <Columns2 size={18} class="text-ink-soft" aria-hidden="true" />
      <Switch bind:checked={table.places.takesTogether} words="Side by side" testid="together" />
    </div>
    {#if table.places.several}
      <div class="flex items-center gap-2">
        <Link2 size={18} class="text-ink-soft" aria-hidden="true" />
        <Switch bind:checked={table.places.linked} words="Zoomed as one" testid="linked" />
      </div>
    {/if}
  </div>
{/if}
<Findings {table} onputright={() => (righting = true)} />
{#if may.changePictures}<PutRight {table} bind:open={righting} />{/if}
<div class="bg-sheet border-rule sticky -bottom-4 -mx-4 mt-auto -mb-4 flex flex-col gap-2 border-t px-4 py-3">
  {#if !well}
    <p class="text-ink-soft">It lies on the bench. Move it to a slot in Acquire to have it confirmed.</p>
  {:else if !isKeeper}
    <p class="text-ink-soft">Another take is the keeper of this slot.</p>
  {:else if well.confirmed}
    <p class="text-lagoon flex items-center gap-2 font-semibold" data-testid="confirmed">
      <Check size={20} class="shrink-0" aria-hidden="true" />Confirmed by {confirmer}
    </p>
    {#if may.confirm}
      <button
        class="button"
        onclick={() =>
          wish({ kind: 'confirmation-withdrawn', slotId: well.slot.id }, `Withdrawing ${well.slot.name}`)}
        ><Undo2 size={18} aria-hidden="true" />Withdraw it</button
      >
    {/if}
  {:else}
    <p class="text-brass font-semibold">Waits for a clinician</p>
    {#if may.confirm}
      <button class="button main text-lead min-h-13" onclick={confirm} data-testid="confirm"
        ><Check size={20} aria-hidden="true" />Confirm the keeper</button
      >
    {:else}
      <p class="text-small text-ink-soft">It is offered as prepared. A clinician confirms it.</p>
    {/if}
  {/if}
</div>
