<script lang="ts">
  import PlacePill from '../body/PlacePill.svelte';
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
      <li>
        <PlacePill
          {key}
          {words}
          {count}
          chosen={chosen.includes(key)}
          label="{words}, {count === 0 ? 'no picture' : countWords(count, 'picture', 'pictures')}"
          disabled={count === 0}
          onchoose={() => onchoose(key)}
        />
      </li>
    {/each}
  </ul>
</section>
