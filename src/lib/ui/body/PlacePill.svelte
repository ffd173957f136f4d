<script lang="ts">
  interface Props {
    words: string;
    /** How many pictures there are. */
    count: number;
    /** Unique among places. */
    key: string;
    chosen: boolean;
    label?: string;
    disabled?: boolean;
    onchoose: () => void;
  }
  let { words, count, key, chosen, label, disabled = false, onchoose }: Props = $props();
</script>

<button
  class="text-small flex min-h-11 items-center gap-2 rounded-full border px-3 font-semibold {chosen
    ? 'border-ink bg-ink text-paper'
    : count > 0
      ? 'border-lagoon bg-lagoon-wash text-ink'
      : 'border-ink-soft text-ink-soft border-dashed'}"
  aria-pressed={chosen}
  aria-label={label}
  {disabled}
  onclick={onchoose}
  data-place={key}
>
  {words}
  {#if count > 0}<span class={chosen ? '' : 'text-lagoon'}>{count}</span>{/if}
</button>
