<script lang="ts">
  import { TriangleAlert } from '@lucide/svelte';
  import { type AdviceView, standingAdvice } from '$core/picture/adviceView';

  interface Props {
    advice: AdviceView[] | null;
    mayAnswer: boolean;
    onretake?: () => void;
    ondeny: (kind: AdviceView['kind']) => void;
  }
  let { advice, mayAnswer, onretake, ondeny }: Props = $props();
  const first = $derived(standingAdvice(advice)[0] ?? null);
  const more = $derived(standingAdvice(advice).length - 1);
</script>

{#if first}
  <div
    class="bg-brass-wash text-brass pointer-events-auto flex max-w-full items-center gap-3 rounded-lg py-1.5 pr-1.5 pl-3"
    role="status"
    data-testid="advice"
    data-kind={first.kind}
  >
    <TriangleAlert size={22} class="shrink-0" aria-hidden="true" />
    <p class="min-w-0 font-semibold">
      {first.description}{more > 0 ? ` And ${more} more.` : ''}
    </p>
    {#if mayAnswer}
      {#if onretake}
        <button class="button shrink-0 px-3" onclick={onretake} data-testid="advice-retake"
          >Take it again</button
        >
      {/if}
      <button class="button shrink-0 px-3" onclick={() => ondeny(first.kind)} data-testid="advice-not-so"
        >Not so</button
      >
    {/if}
  </div>
{/if}
