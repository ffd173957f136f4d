<script lang="ts">
  import { type ComponentProps, onMount } from 'svelte';
  import type LetterEditor from './LetterEditor.svelte';

  /** The sheet, once its editor has come. */
  let props: ComponentProps<typeof LetterEditor> = $props();
  let Sheet = $state.raw<typeof LetterEditor | null>(null);
  onMount(async () => {
    Sheet = (await import('./LetterEditor.svelte')).default;
  });
</script>

<div class="flex min-h-0 min-w-0 flex-col gap-2" data-testid="letter-sheet">
  {#if Sheet}<Sheet {...props} />{:else}<div class="bg-tray flex-1 rounded-xl" aria-busy="true"></div>{/if}
</div>
