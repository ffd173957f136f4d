<script lang="ts">
  import { countWords } from '../words';

  interface Props {
    title: string;
    /** What lies on it, or could. */
    items: readonly { key: string; words: string; count: number }[];
    chosen: readonly string[];
    onchoose: (key: string) => void;
  }
  let { title, items, chosen, onchoose }: Props = $props();
  const id = $props.id();
</script>

<section aria-labelledby={id}>
  <h2 {id} class="heading mb-1.5">{title}</h2>
  <ul class="flex flex-wrap gap-1.5">
    {#each items as { key, words, count } (key)}
      {@const isChosen = chosen.includes(key)}
      <li>
        <button
          class="text-small flex min-h-11 items-center gap-2 rounded-full border px-3 font-semibold {isChosen
            ? 'border-ink bg-ink text-paper'
            : count > 0
              ? 'border-lagoon bg-lagoon-wash text-ink'
              : 'border-ink-soft text-ink-soft border-dashed'}"
          aria-pressed={isChosen}
          aria-label="{words}, {count === 0 ? 'no picture' : countWords(count, 'picture', 'pictures')}"
          disabled={count === 0}
          onclick={() => onchoose(key)}
          data-place={key}
        >
          {words}
          {#if count > 0}<span class={isChosen ? '' : 'text-lagoon'}>{count}</span>{/if}
        </button>
      </li>
    {/each}
  </ul>
</section>
