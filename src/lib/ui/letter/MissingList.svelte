<script lang="ts">
  import { CircleDashed, Clock3, EyeOff, TriangleAlert } from '@lucide/svelte';
  import type { Missing } from '$core/letter/letterMissing';

  /** What a letter asks for and does not get. */
  let { missing, onchoose }: { missing: readonly Missing[]; onchoose?: (missing: Missing) => void } =
    $props();
  const icons = {
    field: CircleDashed,
    place: CircleDashed,
    block: CircleDashed,
    old: Clock3,
    'kept back': EyeOff,
    gone: TriangleAlert,
    'unknown field': TriangleAlert
  };
</script>

<ul class="flex flex-col gap-1" data-testid="missing">
  {#each missing as each (each.kind + each.of)}
    {@const Icon = icons[each.kind]}
    {@const isPlace = each.kind === 'place' || each.kind === 'old' || each.kind === 'gone'}
    <li class={each.kind === 'kept back' ? 'text-ink-soft' : ''} data-kind={each.kind}>
      {#if isPlace && onchoose}
        <button
          class="hover:bg-tray flex min-h-11 w-full gap-2 rounded-lg px-1 py-1.5 text-left"
          onclick={() => onchoose(each)}
        >
          <Icon size={18} class="text-brass mt-0.5 shrink-0" aria-hidden="true" /><span
            class="underline decoration-dotted underline-offset-4">{each.words}</span
          >
        </button>
      {:else}
        <p class="flex gap-2 px-1 py-1.5">
          <Icon
            size={18}
            class="mt-0.5 shrink-0 {each.kind === 'kept back' ? '' : 'text-brass'}"
            aria-hidden="true"
          />{each.words}
        </p>
      {/if}
    </li>
  {/each}
</ul>
