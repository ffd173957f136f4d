<script lang="ts">
  import { Check } from '@lucide/svelte';
  import { Checkbox } from 'bits-ui';

  interface Props {
    checked: boolean;
    label: string;
    testid?: string;
    onchange?: (checked: boolean) => void;
  }
  let { checked, label, testid, onchange }: Props = $props();
</script>

<Checkbox.Root
  {checked}
  onCheckedChange={(now) => onchange?.(now === true)}
  aria-label={label}
  data-testid={testid}
  class="group flex size-11 shrink-0 items-center justify-center"
>
  <span
    class="border-ink-soft bg-sheet group-data-[state=checked]:border-ink group-data-[state=checked]:bg-ink text-paper flex size-6 items-center justify-center rounded-md border-2"
  >
    {#if checked}<Check size={17} strokeWidth={3} aria-hidden="true" />{/if}
  </span>
</Checkbox.Root>
