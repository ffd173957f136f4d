<script lang="ts">
  import { numberWords } from '../writing';
  import { type Claim, claimKinds } from '$core/parcel/claim';
  import { type PictureView, pictureName } from '$core/picture/pictureView';
  import type { PrintWay } from '$core/print/printWish';
  import { trueSize } from '$core/print/trueSize';
  import { dateWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import Tick from '../kit/Tick.svelte';
  import ClaimFields from '../leaving/ClaimFields.svelte';
  import Small from '../pictures/Small.svelte';

  /** Pictures that can be printed, with what matters of each by the way it is printed. */
  interface Props {
    offered: readonly PictureView[];
    chosen: ReadonlySet<string>;
    way: PrintWay;
    /** Those that a claims office has, by their numbers. */
    claimed: Readonly<Record<string, { tracking: string }>>;
    /** What is told of each for a claim. */
    desk: {
      claimOf: (picture: PictureView) => Claim;
      tell: (picture: PictureView, part: Partial<Claim>) => void;
    };
    onput: (pictureId: string, into: boolean) => void;
  }
  let { offered, chosen, way, claimed, desk, onput }: Props = $props();
  let telling = $state<PictureView | null>(null);
</script>

<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<ul
  class="-mx-1 mt-3 flex min-h-24 flex-1 flex-col gap-1 overflow-y-auto px-1"
  tabindex="0"
  aria-label="Its pictures"
  data-testid="print-pictures"
>
  {#each offered as picture (picture.pictureId)}
    {@const name = pictureName(picture)}
    {@const size = way === 'true' ? trueSize(picture) : null}
    <li class="border-rule bg-sheet flex items-center gap-2 rounded-lg border pr-3">
      <Tick
        checked={chosen.has(picture.pictureId)}
        label="Print {name}"
        testid="print-picture"
        onchange={(into) => onput(picture.pictureId, into)}
      />
      <Small {picture} alt="" frame="h-12 w-14 shrink-0 rounded" />
      <span class="min-w-0 flex-1 leading-tight">
        <span class="block font-semibold">{name}</span>
        {#if way === 'true'}
          <span class="text-small block {size ? 'text-ink-soft' : 'text-brass font-semibold'}"
            >{size
              ? `${size.width.toFixed(0)} × ${size.height.toFixed(0)} mm, ± ${numberWords(100 * size.plusMinusShare, 1)} %`
              : 'has no scale'}</span
          >
        {:else if way === 'claim'}
          {@const claim = desk.claimOf(picture)}
          <span class="text-small text-ink-soft block"
            >{claimKinds[claim.kind]}, {dateWords(claim.taken)}; left is at the {claim.leftIsAt}</span
          >
          {#if claimed[picture.pictureId]}<span class="text-small text-ink-soft block"
              >{claimed[picture.pictureId].tracking}</span
            >{/if}
        {/if}
      </span>
      {#if way === 'claim'}
        <button
          class="button text-small px-2.5"
          aria-label="Change what is told of {name}"
          onclick={() => (telling = picture)}
          data-testid="print-tell">Change</button
        >
      {/if}
    </li>
  {/each}
</ul>

<Dialog bind:open={() => telling !== null, (open) => open || (telling = null)} title="What the claim tells">
  {#if telling}<ClaimFields {desk} pictures={[telling]} headed={false} />{/if}
</Dialog>
