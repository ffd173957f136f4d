<script lang="ts">
  import { DropdownMenu } from 'bits-ui';
  import type { Component, Snippet } from 'svelte';
  import { popups } from './popups';

  interface Item {
    words: string;
    icon?: Component<{ size?: number }>;
    /** The key that does the same. */
    key?: string;
    disabled?: boolean;
    testid?: string;
    act: () => void;
  }
  interface Props {
    label: string;
    items: readonly Item[];
    button?: string;
    testid?: string;
    /** Which end of the button it hangs from. */
    align?: 'start' | 'end';
    trigger: Snippet;
    /** Stands above the items: whose menu it is. */
    head?: Snippet;
  }
  let { label, items, button = 'button', testid, align = 'end', trigger, head }: Props = $props();
</script>

<DropdownMenu.Root>
  <DropdownMenu.Trigger class={button} aria-label={label} data-testid={testid}
    >{@render trigger()}</DropdownMenu.Trigger
  >
  <DropdownMenu.Portal to={popups}>
    <DropdownMenu.Content
      class="panel kit-list z-50 min-w-56 p-1.5 shadow-lg"
      sideOffset={8}
      {align}
      aria-label={label}
    >
      {#if head}<div class="border-rule mb-1.5 border-b px-3 py-2">{@render head()}</div>{/if}
      {#each items as item, i (i)}
        {@const Icon = item.icon}
        <DropdownMenu.Item
          class="kit-item"
          disabled={item.disabled}
          onSelect={item.act}
          data-testid={item.testid}
        >
          {#if Icon}<Icon size={19} />{/if}
          <span class="font-semibold">{item.words}</span>
          {#if item.key}<kbd class="text-small text-ink-soft ml-auto pl-4">{item.key}</kbd>{/if}
        </DropdownMenu.Item>
      {/each}
    </DropdownMenu.Content>
  </DropdownMenu.Portal>
</DropdownMenu.Root>
