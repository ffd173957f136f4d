<script lang="ts">
  import { Check, Star, Undo2 } from '@lucide/svelte';
  import type { Well } from '$core/tray/tray';
  import type { PictureView } from '$core/picture/pictureView';
  import type { VisitView } from '$core/visit/visitView';
  import { attempt, send } from '../net/send';
  import { clockWords, dayWords } from '../words';

  interface Props {
    visit: VisitView;
    picture: PictureView;
    well: Well | null;
    mayConfirm: boolean;
    mayChange: boolean;
    onshow: (pictureId: string) => void;
  }
  let { visit, picture, well, mayConfirm, mayChange, onshow }: Props = $props();
  const isKeeper = $derived(well?.keeper === picture.pictureId);
  const open = $derived(
    Object.values(visit.tray.wells).filter(
      (each) => each.keeper !== null && each.confirmedBy === null && each.keeper !== picture.pictureId
    )
  );
  const wish = (body: object) => attempt(() => send('POST', `/api/visits/${visit.visitId}/tray`, body));

  async function confirm() {
    const done = await wish({ kind: 'keeper-confirmed', slotId: well!.slot.id, takeId: picture.pictureId });
    if (done && open[0]) onshow(open[0].keeper!);
  }
</script>

<dl class="text-small grid grid-cols-[auto_1fr] gap-x-3 gap-y-1">
  <dt class="text-ink-soft">taken</dt>
  <dd class="font-semibold">{dayWords(picture.takenAt)}, {clockWords(picture.takenAt)}</dd>
  <dt class="text-ink-soft">from</dt>
  <dd class="truncate font-semibold">{picture.from === 'file' ? picture.fileName : picture.from}</dd>
  <dt class="text-ink-soft">picture</dt>
  <dd class="font-semibold">
    {picture.width} x {picture.height}, {picture.bitsStored} bit{picture.channels === 3 ? ' colour' : ''}
  </dd>
</dl>
{#each picture.remarks as remark (remark)}<p
    class="bg-brass-wash text-small text-brass rounded-lg px-3 py-2 font-semibold"
  >
    {remark}
  </p>{/each}
{#if well && well.takes.length > 1}
  <div>
    <h2 class="heading mb-1.5">Takes in this slot</h2>
    <ul class="flex flex-col gap-1">
      {#each well.takes as takeId, i (takeId)}
        {@const take = visit.pictures.find((each) => each.pictureId === takeId)}
        <li class="flex items-center gap-1">
          <button
            class="button quiet flex-1 justify-start px-2 {takeId === picture.pictureId ? 'bg-tray!' : ''}"
            onclick={() => onshow(takeId)}
          >
            Take {i + 1}{take ? `, ${clockWords(take.takenAt)}` : ''}
          </button>
          {#if takeId === well.keeper}
            <span class="chip bg-lagoon-wash text-lagoon"><Star size={14} aria-hidden="true" />keeper</span>
          {:else if mayChange}
            <button
              class="button px-2.5"
              onclick={() => wish({ kind: 'keeper-chosen', slotId: well.slot.id, takeId })}>Keep this</button
            >
          {/if}
        </li>
      {/each}
    </ul>
  </div>
{/if}
<div class="mt-auto flex flex-col gap-2">
  {#if !well}
    <p class="text-ink-soft">It lies on the bench. Move it to a slot in Acquire to have it confirmed.</p>
  {:else if !isKeeper}
    <p class="text-ink-soft">Another take is the keeper of this slot.</p>
  {:else if well.confirmedBy}
    <p class="text-lagoon flex items-center gap-2 font-semibold" data-testid="confirmed">
      <Check size={20} aria-hidden="true" />Confirmed by {well.confirmedBy}
    </p>
    {#if mayConfirm}
      <button class="button" onclick={() => wish({ kind: 'confirmation-withdrawn', slotId: well.slot.id })}
        ><Undo2 size={18} aria-hidden="true" />Withdraw it</button
      >
    {/if}
  {:else}
    <p class="text-brass font-semibold">Waits for a clinician</p>
    {#if mayConfirm}
      <button class="button main text-lead min-h-13" onclick={confirm} data-testid="confirm"
        ><Check size={20} aria-hidden="true" />Confirm the keeper</button
      >
    {:else}
      <p class="text-small text-ink-soft">It is offered as prepared. A clinician confirms it.</p>
    {/if}
  {/if}
</div>
