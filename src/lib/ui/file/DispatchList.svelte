<script lang="ts">
  import { Check, Clock, LoaderCircle, RotateCw, TriangleAlert } from '@lucide/svelte';
  import { type PictureView, pictureName } from '$core/picture/pictureView';
  import type { DeliveryView } from '$core/visit/visitView';
  import { clockWords, secondsWords } from '../clock';
  import { countWords } from '../words';
  import { ask, attempt } from '../net/send';

  let {
    deliveries,
    pictures,
    visitId,
    mayTry
  }: { deliveries: DeliveryView[]; pictures: PictureView[]; visitId: string; mayTry: boolean } = $props();
  const nameOf = ({ pictureId: id, pictures: count }: DeliveryView) => {
    if (id === null) return countWords(count, 'picture', 'pictures');
    const picture = pictures.find((each) => each.pictureId === id);
    return picture ? pictureName(picture) : 'Picture';
  };
  const newestFirst = $derived([...deliveries].reverse());
</script>

<div class="border-rule flex items-baseline justify-between border-t pt-3">
  <h3 class="heading">On the way from here</h3>
  {#if deliveries.length > 0}<a
      class="text-small font-semibold underline"
      href="/dispatch?show=all&visit={visitId}">Each parcel, in Dispatch</a
    >{/if}
</div>
<ul class="flex flex-col gap-1" aria-live="polite">
  {#each newestFirst as each (each.deliveryId)}
    <li
      class="border-rule flex items-start gap-3 rounded-lg border px-3 py-2"
      data-testid="delivery"
      data-state={each.state}
    >
      <span
        class="mt-0.5 {each.state === 'delivered'
          ? 'text-lagoon'
          : each.state === 'failed' || (each.state === 'waiting' && each.attempts > 0)
            ? 'text-brass'
            : 'text-ink-soft'}"
      >
        {#if each.state === 'delivered'}<Check size={19} aria-hidden="true" />
        {:else if each.state === 'failed'}<TriangleAlert size={19} aria-hidden="true" />
        {:else if each.state === 'sending'}<LoaderCircle size={19} class="animate-spin" aria-hidden="true" />
        {:else}<Clock size={19} aria-hidden="true" />{/if}
      </span>
      <span class="min-w-0 flex-1">
        <span class="flex flex-wrap justify-between gap-x-3">
          <span class="font-semibold">{nameOf(each)}</span>
          <span class="text-small font-semibold">
            {each.state}{each.state === 'delivered' && each.deliveredAt
              ? ` ${clockWords(each.deliveredAt)}`
              : ''}
          </span>
        </span>
        <span class="text-small text-ink-soft block"
          >{each.destination}, {each.identity === 'identified' ? 'identity kept' : 'de-identified'}</span
        >
        {#if each.tracking}<span class="text-small block"
            >Tracking number <strong class="select-all">{each.tracking}</strong></span
          >{/if}
        {#if each.reason}
          <span class="text-small text-brass block font-semibold">
            {each.reason}{each.nextTryAt
              ? ` Tried ${each.attempts}x; again at ${secondsWords(each.nextTryAt)}.`
              : each.next
                ? ` ${each.next}`
                : ''}
          </span>
        {/if}
      </span>
      {#if mayTry && (each.state === 'failed' || (each.state === 'waiting' && each.attempts > 0))}
        <button
          class="button px-2.5"
          onclick={() => attempt(() => ask(`/api/deliveries/${each.deliveryId}`, {}))}
        >
          <RotateCw size={17} aria-hidden="true" />Try now
        </button>
      {/if}
    </li>
  {:else}
    <li class="text-ink-soft">Nothing was sent yet.</li>
  {/each}
</ul>
