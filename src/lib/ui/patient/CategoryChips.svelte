<script lang="ts">
  import { Tags } from '@lucide/svelte';
  import { dropTargetForElements } from '@atlaskit/pragmatic-drag-and-drop/element/adapter';
  import type { Category } from '$core/picture/pictureView';

  interface Props {
    categories: readonly Category[];
    counts: Record<string, number>;
    chosen: string | null;
    mayChange: boolean;
    mayFile: boolean;
    onchoose: (categoryId: string | null) => void;
    /** Pictures were dropped on one. */
    ondrop: (category: Category, pictureIds: string[]) => void;
    onchange: () => void;
  }
  let { categories, counts, chosen, mayChange, mayFile, onchoose, ondrop, onchange }: Props = $props();
  let over = $state('');

  const target = (category: Category) => (element: HTMLElement) => {
    if (!mayFile) return;
    return dropTargetForElements({
      element,
      canDrop: ({ source }) => Array.isArray(source.data.pictureIds),
      onDragEnter: () => (over = category.categoryId),
      onDragLeave: () => (over = ''),
      onDrop: ({ source }) => {
        over = '';
        ondrop(category, source.data.pictureIds as string[]);
      }
    });
  };
</script>

{#if categories.length > 0 || mayChange}
  <div class="flex min-w-0 items-center gap-1.5 overflow-x-auto p-0.5" role="group" aria-label="Categories">
    {#each categories as category (category.categoryId)}
      {@const is = chosen === category.categoryId}
      <button
        class="text-small flex min-h-11 shrink-0 items-center gap-1.5 rounded-lg border px-2.5 font-semibold {over ===
        category.categoryId
          ? 'border-coral bg-coral-wash border-2'
          : is
            ? 'border-lagoon bg-lagoon-wash'
            : 'border-rule'}"
        aria-pressed={is}
        onclick={() => onchoose(is ? null : category.categoryId)}
        {@attach target(category)}
        data-testid="category"
      >
        {category.name}<span class="text-ink-soft font-normal">{counts[category.categoryId] ?? 0}</span>
      </button>
    {/each}
    {#if mayChange}
      <button class="button quiet text-small shrink-0 px-2" onclick={onchange} data-testid="categories"
        ><Tags size={18} aria-hidden="true" />{categories.length > 0 ? 'Change' : 'Categories'}</button
      >
    {/if}
  </div>
{/if}
