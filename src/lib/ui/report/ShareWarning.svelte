<script lang="ts">
  import { FileDown, Printer, TriangleAlert } from '@lucide/svelte';
  import Dialog from '../kit/Dialog.svelte';
  import type { MadePaper } from './fetchPaper';

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
    {#if paper.names === 'full'}
      <p>It names <strong>{patient}</strong> in full. Give it to those alone who may know that.</p>
    {:else}
      <p>
        Its head has initials alone. What is written in it, and the pictures themselves, may still tell who it
        is.
      </p>
    {/if}
    {#if paper.named.length > 0}
      <p class="bg-brass-wash flex gap-2 rounded-lg p-3" data-testid="share-named">
        <TriangleAlert size={20} class="mt-0.5 shrink-0" aria-hidden="true" />
        <span
          >Its words hold {paper.named.map((each) => `“${each}”`).join(', ')}, which points to the patient.
          Take that part out, or change the words.</span
        >
      </p>
    {/if}
    {#if paper.unwritable.length > 0}
      <p class="bg-brass-wash flex gap-2 rounded-lg p-3" data-testid="share-unwritable">
        <TriangleAlert size={20} class="mt-0.5 shrink-0" aria-hidden="true" />
        <span
          >No letters are at hand for {paper.unwritable.join(' ')}: a “?” stands in the place of each.</span
        >
      </p>
    {/if}
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
