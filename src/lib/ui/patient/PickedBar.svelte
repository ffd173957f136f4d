<script lang="ts">
  import { Columns2, Inbox, LibraryBig, Link, MapPinOff, Send, Tag, Trash2, X } from '@lucide/svelte';
  import { type Place, placesInWords } from '$core/anatomy/place';
  import type { Notation } from '$core/anatomy/teeth';
  import type { ListedPicture } from '$core/picture/pictureSearch';
  import type { Category } from '$core/picture/pictureView';
  import { countWords } from '../words';
  import Menu from '../kit/Menu.svelte';
  import type { Picked } from '../pictures/picked.svelte';

  interface Props {
    picked: Picked;
    /** What is listed now: more may be picked. */
    list: readonly ListedPicture[];
    /** Places that are chosen on the drawing. */
    chosen: readonly Place[];
    notation: Notation;
    categories: readonly Category[];
    may: { link: boolean; acquire: boolean; deletePictures: boolean; send: boolean };
    /** Each where it is to be had. */
    onopen?: () => void;
    onsend: () => void;
    onshelve: () => void;
    onlink?: () => void;
    onunlink?: () => void;
    onfile?: (category: Category, filed: boolean) => void;
    onaway?: (to: 'bin' | 'arrivals') => void;
  }
  let {
    picked,
    list,
    chosen,
    notation,
    categories,
    may,
    onopen,
    onsend,
    onshelve,
    onlink,
    onunlink,
    onfile,
    onaway
  }: Props = $props();
  const hidden = $derived(picked.ids.filter((id) => !list.some(({ pictureId }) => pictureId === id)).length);
  const where = $derived(placesInWords(chosen, notation));
  const items = $derived(
    categories.map((category) => {
      const isIn = picked.pictures.every((picture) => picture.categories.includes(category.categoryId));
      return {
        words: isIn ? `No longer under ${category.name}` : category.name,
        testid: 'file-under',
        act: () => onfile?.(category, !isIn)
      };
    })
  );
</script>

<div
  class="border-coral bg-coral-wash flex flex-wrap items-center gap-1.5 rounded-lg border-2 p-1"
  role="toolbar"
  aria-label="What is done with the picked pictures"
  data-testid="picked-bar"
>
  <button
    class="button quiet px-2.5"
    onclick={() => picked.none()}
    aria-label="Pick none"
    data-testid="pick-none"
    ><X size={18} aria-hidden="true" /><span data-testid="picked-count"
      >{countWords(picked.count, 'picture', 'pictures')}</span
    >{#if hidden > 0}<span class="text-brass text-small" data-testid="picked-hidden"
        >{hidden} not in the list</span
      >{/if}</button
  >
  {#if onopen}<button class="button px-2.5" onclick={onopen} data-testid="open-picked"
      ><Columns2 size={18} aria-hidden="true" />{picked.count > 1 ? 'Compare' : 'Open'}</button
    >{/if}
  {#if may.link}
    {#if chosen.length > 0}
      <button class="button px-2.5" onclick={onlink} data-testid="link-picked"
        ><Link size={18} aria-hidden="true" />Link to {where}</button
      >
      <button class="button px-2.5" onclick={onunlink} data-testid="unlink-picked"
        ><MapPinOff size={18} aria-hidden="true" />Take off {where}</button
      >
    {/if}
    {#if categories.length > 0}
      <Menu label="File under" {items} button="button px-2.5" testid="file-menu" align="start">
        {#snippet trigger()}<Tag size={18} aria-hidden="true" />File under{/snippet}
      </Menu>
    {/if}
  {/if}
  {#if may.send}
    <Menu
      label="Send"
      items={[
        { words: 'Send as a parcel', icon: Send, act: onsend, testid: 'send-parcel' },
        { words: 'Make a teaching case', icon: LibraryBig, act: onshelve, testid: 'make-case' }
      ]}
      button="button px-2.5"
      testid="send-picked"
      align="start"
    >
      {#snippet trigger()}<Send size={18} aria-hidden="true" />Send{/snippet}
    </Menu>
  {/if}
  <span class="ml-auto flex gap-1.5">
    {#if may.acquire}<button
        class="button px-2.5"
        onclick={() => onaway?.('arrivals')}
        data-testid="to-arrivals"><Inbox size={18} aria-hidden="true" />To Arrivals</button
      >{/if}
    {#if may.deletePictures}<button
        class="button text-coral px-2.5"
        onclick={() => onaway?.('bin')}
        data-testid="delete-picked"><Trash2 size={18} aria-hidden="true" />Delete everywhere</button
      >{/if}
  </span>
</div>
