<script lang="ts">
  import { onMount } from 'svelte';
  import type { Editor } from 'svelte-tiptap';
  import type { LetterBody } from '$core/letter/letterBody';
  import type { LetterDesk } from './letterDesk.svelte';

  /** The sheet, once its editor has come. */
  interface Props {
    desk: LetterDesk;
    label: string;
    onchange: (body: LetterBody) => void;
    onready: (editor: Editor) => void;
  }
  let props: Props = $props();
  let Sheet = $state.raw<typeof import('./LetterEditor.svelte').default | null>(null);
  onMount(async () => {
    Sheet = (await import('./LetterEditor.svelte')).default;
  });
</script>

<div class="flex min-h-0 min-w-0 flex-col gap-2" data-testid="letter-sheet">
  {#if Sheet}<Sheet {...props} />{:else}<div class="bg-tray flex-1 rounded-xl" aria-busy="true"></div>{/if}
</div>
