<script lang="ts">
  import { Tooltip } from 'bits-ui';
  import type { Snippet } from 'svelte';
  import { popups } from './popups';

  interface Props {
    /** What the button does, in words; also what a screen reader says. */
    words: string;
    /** The key that does the same. */
    key?: string;
    button?: string;
    disabled?: boolean;
    pressed?: boolean;
    testid?: string;
    onclick?: () => void;
    children: Snippet;
  }
  let { words, key, button = 'button', disabled, pressed, testid, onclick, children }: Props = $props();
</script>

<Tooltip.Provider>
  <Tooltip.Root delayDuration={350}>
    <Tooltip.Trigger
      class={button}
      aria-label={words}
      aria-pressed={pressed}
      {disabled}
      {onclick}
      data-testid={testid}>{@render children()}</Tooltip.Trigger
    >
    <Tooltip.Portal to={popups}>
      <Tooltip.Content
        class="bg-ink text-paper text-small z-50 rounded-lg px-2.5 py-1.5 font-semibold"
        sideOffset={6}
        collisionPadding={8}
      >
        {words}{key ? ` (${key})` : ''}
      </Tooltip.Content>
    </Tooltip.Portal>
  </Tooltip.Root>
</Tooltip.Provider>
