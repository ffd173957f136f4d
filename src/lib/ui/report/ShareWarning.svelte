<script lang="ts">
  import { FileDown, Printer } from '@lucide/svelte';
  import Dialog from '../kit/Dialog.svelte';
  import type { MadePaper } from './fetchPaper';
  import PaperWarnings from './PaperWarnings.svelte';

  /** Said before a paper leaves the house. */
  interface Props {
    way: 'downloaded' | 'printed';
    paper: MadePaper;
    /** What it is called: "This report". */
    what: string;
    patient: string;
    onaccept: () => void;
    oncancel: () => void;
  }
  let { way, paper, what, patient, onaccept, oncancel }: Props = $props();
</script>

<Dialog bind:open={() => true, (open) => open || oncancel()} title="{what} tells of a person">
  <div class="flex flex-col gap-3" data-testid="share-warning">
    <PaperWarnings {paper} {patient} />
    <div class="flex justify-end gap-2">
      <button class="button" onclick={oncancel}>Not now</button>
      <button class="button main" onclick={onaccept} data-testid="share-accept">
        {#if way === 'printed'}<Printer size={18} aria-hidden="true" />I know. Print it{:else}<FileDown
            size={18}
            aria-hidden="true"
          />I know. Download it{/if}
      </button>
    </div>
  </div>
</Dialog>
