<script lang="ts">
  import { Popover } from 'bits-ui';
  import type { Snippet } from 'svelte';
  import { popups } from './popups';

  interface Props {
    open?: boolean;
    label: string;
    /** Classes of the button that opens it. */
    button?: string;
    testid?: string;
    trigger: Snippet;
    children: Snippet;
  }
  let { open = $bindable(false), label, button = 'button', testid, trigger, children }: Props = $props();
</script>

<Popover.Root bind:open>
  <Popover.Trigger class={button} aria-label={label} data-testid={testid}>{@render trigger()}</Popover.Trigger
  >
  <Popover.Portal to={popups}>
    <Popover.Content
      class="panel z-50 max-h-[70vh] max-w-[92vw] overflow-y-auto p-4 shadow-lg"
      sideOffset={8}
      collisionPadding={12}
      role="dialog"
      aria-label={label}
    >
      {@render children()}
    </Popover.Content>
  </Popover.Portal>
</Popover.Root>
