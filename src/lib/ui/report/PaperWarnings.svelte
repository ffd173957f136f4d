<script lang="ts">
  import { TriangleAlert } from '@lucide/svelte';
  import type { MadePaper } from './fetchPaper';

  /** What has to be heard of a paper before anybody else gets it. */
  let { paper, patient }: { paper: MadePaper; patient: string } = $props();
</script>

{#if paper.names === 'full'}
  <p>It names <strong>{patient}</strong> in full. Give it to those alone who may know that.</p>
{:else}
  <p>
    Its head has initials alone. What is written in it, and the pictures themselves, may still tell who it is.
  </p>
{/if}
{#if paper.named.length > 0}
  <p class="bg-brass-wash flex gap-2 rounded-lg p-3" data-testid="share-named">
    <TriangleAlert size={20} class="mt-0.5 shrink-0" aria-hidden="true" />
    <span
      >Its words hold {paper.named.map((each) => `“${each}”`).join(', ')}, which points to the patient. Take
      that part out, or change the words.</span
    >
  </p>
{/if}
{#if paper.unwritable.length > 0}
  <p class="bg-brass-wash flex gap-2 rounded-lg p-3" data-testid="share-unwritable">
    <TriangleAlert size={20} class="mt-0.5 shrink-0" aria-hidden="true" />
    <span>No letters are at hand for {paper.unwritable.join(' ')}: a “?” stands in the place of each.</span>
  </p>
{/if}
