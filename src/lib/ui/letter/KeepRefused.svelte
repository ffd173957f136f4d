<script lang="ts">
  import type { Keeping } from './keeping.svelte';

  /** Why what was written is not kept. What somebody else changed meanwhile can be kept apart from, or be taken. */
  interface Props {
    keeping: Pick<Keeping<unknown>, 'refused' | 'giveUp'>;
    onkeepown?: () => void;
  }
  let { keeping, onkeepown }: Props = $props();
  const changedMeanwhile = ['template-changed', 'letter-changed'];
  function takeTheirs() {
    keeping.giveUp();
    location.reload();
  }
</script>

{#if keeping.refused}
  <div class="bg-brass-wash flex flex-col gap-2 rounded-lg p-3" role="alert" data-testid="keep-refused">
    <p class="font-semibold">{keeping.refused.sentence}</p>
    <p>{keeping.refused.next}</p>
    {#if changedMeanwhile.includes(keeping.refused.code)}
      {#if onkeepown}
        <button class="button" onclick={onkeepown} data-testid="keep-own">Keep mine as its own</button>
      {/if}
      <button class="button" onclick={takeTheirs} data-testid="take-theirs">Take theirs</button>
    {/if}
  </div>
{/if}
