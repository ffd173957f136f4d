<script lang="ts" generics="Value extends string">
  import { ToggleGroup } from 'bits-ui';
  import type { Component } from 'svelte';

  interface Props {
    value: Value;
    options: readonly {
      value: Value;
      words: string;
      icon?: Component<{ size?: number }>;
      /** The key that does the same. */
      key?: string;
    }[];
    label: string;
    /** The icon over its word, for strips of tools. */
    stacked?: boolean;
    small?: boolean;
    /** Over several lines, where there are many. */
    wraps?: boolean;
    testid?: string;
    disabled?: boolean;
    onchange?: (value: Value) => void;
  }
  let {
    value = $bindable(),
    options,
    label,
    stacked = false,
    small = false,
    wraps = false,
    testid,
    disabled = false,
    onchange
  }: Props = $props();
</script>

<ToggleGroup.Root
  type="single"
  bind:value={
    () => value as string,
    (chosen) => {
      // Pressing the one that is chosen leaves it chosen.
      if (chosen === '') return;
      value = chosen as Value;
      onchange?.(value);
    }
  }
  class="flex gap-1 {wraps ? 'flex-wrap' : ''}"
  aria-label={label}
  {disabled}
>
  {#each options as option (option.value)}
    {@const Icon = option.icon}
    <ToggleGroup.Item
      value={option.value}
      class="data-[state=on]:border-coral! data-[state=on]:bg-coral-wash! whitespace-nowrap {stacked
        ? 'tool'
        : small
          ? 'button text-small px-2.5'
          : 'button px-3'}"
      title={option.key ? `${option.words} (${option.key})` : undefined}
      data-testid={testid ? `${testid}-${option.value}` : undefined}
    >
      {#if Icon}<Icon size={19} />{/if}{option.words}
    </ToggleGroup.Item>
  {/each}
</ToggleGroup.Root>
