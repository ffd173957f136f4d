<script lang="ts">
  import type { Keeping } from './keeping.svelte';

  /** How far what was written is kept, in a word. */
  let { state }: { state: Keeping<unknown>['state'] } = $props();
  const words = { kept: 'Kept', changed: 'Keeping …', keeping: 'Keeping …', refused: 'Not kept yet' };
</script>

<p
  class="text-small {state === 'refused' ? 'text-brass font-semibold' : 'text-ink-soft'}"
  role="status"
  data-testid="kept-mark"
  data-state={state}
>
  {words[state]}
</p>
