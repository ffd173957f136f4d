<script lang="ts">
  import {
    BookX,
    Disc3,
    FileText,
    FolderOpen,
    Mail,
    Network,
    ScanLine,
    Smartphone,
    Upload
  } from '@lucide/svelte';
  import { draggable, dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
  import type { BundleView } from '$core/arrivals/arrivalView';
  import { clockWords, dayWords, todayAtClinic } from '../clock';
  import type { Desk } from './desk.svelte';

  let { desk, mayGive }: { desk: Desk; mayGive: boolean } = $props();
  const icons = {
    device: ScanLine,
    folder: FolderOpen,
    phone: Smartphone,
    drop: Upload,
    disc: Disc3,
    mail: Mail,
    network: Network,
    chart: BookX
  } as const;
  const known = $derived(desk.listed.filter(({ unknownSender }) => !unknownSender));
  const strangers = $derived(desk.listed.filter(({ unknownSender }) => unknownSender));
  let over = $state('');

  /** When it came; of today only the hour. */
  const whenWords = (iso: string) =>
    todayAtClinic(new Date(iso)) === todayAtClinic() ? clockWords(iso) : dayWords(iso);
  const titleOf = ({ inFile, name, subject }: BundleView) => inFile?.name || subject || name;
  function countOf({ count, papers }: BundleView): string {
    const pictures = count - papers;
    const parts = [
      ...(pictures > 1 ? [`${pictures} pictures`] : pictures === 1 && papers > 0 ? ['a picture'] : []),
      ...(papers > 0 ? [papers === 1 ? 'a paper' : `${papers} papers`] : [])
    ];
    return parts.join(', ');
  }

  /** One bundle is laid on another: they become one. */
  function dragged(element: HTMLElement, bundleId: string) {
    if (!mayGive) return;
    const stops = [
      draggable({ element, getInitialData: () => ({ bundleId }) }),
      dropTargetForElements({
        element,
        canDrop: ({ source }) => Boolean(source.data.bundleId) && source.data.bundleId !== bundleId,
        onDragEnter: () => (over = bundleId),
        onDragLeave: () => (over = ''),
        onDrop: ({ source }) => {
          over = '';
          void desk.join(source.data.bundleId as string, bundleId);
        }
      })
    ];
    return { destroy: () => stops.forEach((stop) => stop()) };
  }
</script>

{#snippet item(each: BundleView)}
  {@const Icon = icons[each.source]}
  {@const is = each === desk.bundle}
  <li>
    <button
      class="flex w-full items-center gap-3 rounded-lg border p-2 text-left {over === each.bundleId
        ? 'border-coral'
        : is
          ? 'border-coral bg-coral-wash'
          : 'hover:bg-tray border-transparent'}"
      aria-current={is}
      onclick={() => (desk.bundleId = each.bundleId)}
      use:dragged={each.bundleId}
      data-testid="arrival"
      data-bundle={each.bundleId}
    >
      {#if each.firstKind === 'paper'}
        <span class="bg-tray flex h-14 w-16 shrink-0 items-center justify-center rounded-md"
          ><FileText size={24} aria-hidden="true" /></span
        >
      {:else}
        <img
          src="/api/arrivals/{each.firstId}/shown"
          alt=""
          loading="lazy"
          class="bg-stage h-14 w-16 shrink-0 rounded-md object-contain"
        />
      {/if}
      <span class="min-w-0 flex-1 leading-tight">
        <span class="block truncate font-semibold">{titleOf(each)}</span>
        {#if countOf(each)}<span class="text-small block">{countOf(each)}</span>{/if}
        <span class="text-small text-ink-soft flex items-center gap-1.5"
          ><Icon size={14} class="shrink-0" aria-hidden="true" /><span class="truncate"
            >{whenWords(each.arrivedAt)}, {each.room ?? each.from}</span
          ></span
        >
      </span>
      {#if each.forMe && each.source === 'mail'}<span class="chip bg-brass-wash text-brass shrink-0"
          >to you</span
        >{/if}
    </button>
  </li>
{/snippet}

<ul class="flex min-h-0 flex-1 flex-col gap-1 overflow-y-auto px-2 pb-2" data-testid="arrivals">
  {#each known as each (each.bundleId)}{@render item(each)}{/each}
  {#if strangers.length > 0}
    <li class="text-small text-ink-soft px-2 pt-3 font-semibold" data-testid="strangers">
      From senders nobody here knows
    </li>
    {#each strangers as each (each.bundleId)}{@render item(each)}{/each}
  {/if}
  {#if desk.listed.length === 0}
    <li class="text-ink-soft px-2 py-3">
      {desk.away
        ? 'Nothing was put away.'
        : 'Drop a disc, a folder or files anywhere. Mail, pictures from phones and folders, and exposures that nobody was ready for come here too.'}
    </li>
  {/if}
</ul>
