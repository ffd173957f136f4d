<script lang="ts">
  import { ChevronLeft, ChevronRight, FileText } from '@lucide/svelte';
  import { arrivalName } from '$core/arrivals/arrivalView';
  import Slider from '../kit/Slider.svelte';
  import Tick from '../kit/Tick.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import type { Desk } from './desk.svelte';

  let { desk }: { desk: Desk } = $props();
  const shown = $derived(desk.shown);
  const series = $derived(shown !== null && shown.kind !== 'paper' && shown.frames > 1);
  const at = $derived(shown ? desk.arrivals.indexOf(shown) : 0);
  /** One that did not come is asked for again, ever more seldom. */
  let tries = $state(0);
  const firstAgainMs = 600;
  const mostDoublings = 4;
  const source = $derived.by(() => {
    if (!shown) return '';
    const query = new URLSearchParams();
    if (desk.frame > 0) query.set('frame', String(desk.frame));
    if (tries > 0) query.set('again', String(tries));
    return `/api/arrivals/${shown.arrivalId}/shown${query.size > 0 ? `?${query}` : ''}`;
  });
  function lost(event: Event) {
    const image = event.currentTarget as HTMLImageElement;
    const of = image.getAttribute('src');
    setTimeout(
      () => {
        if (image.isConnected && image.getAttribute('src') === of) tries++;
      },
      firstAgainMs * 2 ** Math.min(tries, mostDoublings)
    );
  }
  /** What is drawn by now: making a picture of a large file takes a moment, and nothing else may stand for it. */
  let drawn = $state.raw({ arrivalId: '', frame: 0 });
  const isDrawn = $derived(drawn.arrivalId === shown?.arrivalId);
  const several = $derived(desk.arrivals.length > 1);
  /** Of a long bundle those around what is shown are drawn. */
  const around = 24;
  const strip = $derived(desk.arrivals.slice(Math.max(0, at - around), at + around + 1));
  function scrolled(element: HTMLElement, is: boolean) {
    if (is) element.scrollIntoView({ inline: 'nearest', block: 'nearest' });
    return {
      update: (now: boolean) => now && element.scrollIntoView({ inline: 'nearest', block: 'nearest' })
    };
  }
</script>

<section class="flex min-w-0 flex-1 flex-col gap-2" aria-label="The picture">
  <div class="bg-stage relative min-h-0 flex-1 rounded-2xl">
    {#if shown?.kind === 'paper'}
      <div class="text-on-stage flex h-full flex-col items-center justify-center gap-4">
        <FileText size={64} strokeWidth={1.2} aria-hidden="true" />
        <p class="text-lead">
          {shown.frames === 1 ? 'A paper of one page' : `A paper of ${shown.frames} pages`}
        </p>
        <a
          class="button"
          href="/api/arrivals/{shown.arrivalId}/file"
          target="_blank"
          rel="noopener"
          data-testid="arrival-paper">Read it</a
        >
      </div>
    {:else if shown}
      {#if !isDrawn}
        <p class="text-on-stage flex h-full items-center justify-center">Fetching.</p>
      {/if}
      {#key shown.arrivalId}
        {@const { arrivalId } = shown}
        {@const { frame } = desk}
        <img
          src={source}
          onload={() => (drawn = { arrivalId, frame })}
          onerror={lost}
          alt={arrivalName(shown)}
          class="absolute inset-0 h-full w-full rounded-2xl object-contain p-3"
          data-testid="arrival-shown"
          data-frame={desk.frame}
        />
      {/key}
      {#if series && isDrawn}
        <p class="text-on-stage text-small absolute top-3 left-4" data-testid="frame-of">
          {drawn.frame + 1} of {shown.frames}
        </p>
      {/if}
    {:else}
      <p class="text-on-stage flex h-full items-center justify-center">
        {desk.loading ? 'Fetching.' : 'Nothing to look at.'}
      </p>
    {/if}
  </div>
  {#if series}
    <div class="flex items-center gap-3 px-2">
      <Tooltip words="The one before" key="←" button="button px-2.5" onclick={() => desk.turn(-1)}
        ><ChevronLeft size={20} aria-hidden="true" /></Tooltip
      >
      <div class="flex-1">
        <Slider label="Picture of the series" bind:value={desk.frame} least={0} most={shown!.frames - 1} />
      </div>
      <Tooltip words="The next one" key="→" button="button px-2.5" onclick={() => desk.turn(1)}
        ><ChevronRight size={20} aria-hidden="true" /></Tooltip
      >
    </div>
  {/if}
  {#if several}
    <ul
      class="panel flex h-27 shrink-0 gap-2 overflow-x-auto p-2"
      aria-label="In this bundle"
      data-testid="strip"
    >
      {#each strip as each (each.arrivalId)}
        {@const is = each === shown}
        <li class="relative shrink-0" use:scrolled={is}>
          <button
            class="bg-stage flex h-full w-28 items-center justify-center overflow-hidden rounded-md border-[3px] {is
              ? 'border-coral'
              : 'border-transparent'}"
            aria-current={is}
            aria-label={desk.nameOf(each) || arrivalName(each)}
            onclick={() => desk.show(each.arrivalId)}
            data-testid="of-bundle"
          >
            {#if each.kind === 'paper'}<FileText size={28} class="text-on-stage" aria-hidden="true" />
            {:else}<img
                src="/api/arrivals/{each.arrivalId}/shown"
                alt=""
                loading="lazy"
                class="h-full w-full object-contain"
              />{/if}
          </button>
          {#if each.kind !== 'paper' && each.frames > 1}
            <span class="bg-stage/80 text-on-stage text-small absolute right-1.5 bottom-1.5 rounded px-1.5"
              >{each.frames}</span
            >
          {/if}
          <span class="bg-paper/85 absolute top-1 left-1 rounded-md"
            ><Tick
              checked={desk.picked.has(each.arrivalId)}
              label="Pick {desk.nameOf(each) || arrivalName(each)}"
              onchange={() => desk.tick(each.arrivalId)}
              testid="pick"
            /></span
          >
        </li>
      {/each}
    </ul>
  {/if}
</section>
