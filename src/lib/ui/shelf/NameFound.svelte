<script lang="ts">
  import { TriangleAlert } from '@lucide/svelte';
  import TextField from '../kit/TextField.svelte';
  import type { CaseKeeping } from './caseKeeping.svelte';

  let { keeping }: { keeping: CaseKeeping } = $props();
</script>

{#if keeping.found}
  <div
    class="bg-brass-wash text-brass flex flex-col gap-2 rounded-lg p-3"
    role="alert"
    data-testid="name-found"
  >
    <p class="flex items-start gap-2 font-semibold">
      <TriangleAlert size={18} class="mt-0.5 shrink-0" aria-hidden="true" />{keeping.found} Write it without, or
      say why it is no name.
    </p>
    <TextField
      label="Why it is no name"
      bind:value={keeping.why}
      most={300}
      example="“long” is a word here"
      testid="case-why"
    />
  </div>
{/if}
