<script lang="ts" generics="Value extends string">
  import { Check, ChevronDown } from '@lucide/svelte';
  import { Select } from 'bits-ui';
  import { popups } from './popups';

  interface Props {
    value: Value;
    options: readonly { value: Value; words: string; detail?: string }[];
    label: string;
    /** What stands there while nothing is chosen. */
    empty?: string;
    small?: boolean;
    disabled?: boolean;
    testid?: string;
    onchange?: (value: Value) => void;
  }
  let {
    value = $bindable(),
    options,
    label,
    empty = 'Choose',
    small = false,
    disabled = false,
    testid,
    onchange
  }: Props = $props();
  const words = $derived(options.find((each) => each.value === value)?.words ?? empty);
</script>

<Select.Root
  type="single"
  value={value as string}
  onValueChange={(chosen) => {
    value = chosen as Value;
    onchange?.(value);
  }}
  items={options.map((each) => ({ value: each.value, label: each.words }))}
  {disabled}
>
  <Select.Trigger
    class="border-rule bg-paper flex min-h-11 w-full min-w-0 items-center gap-2 rounded-lg border px-3 text-left disabled:opacity-60 {small
      ? 'text-small'
      : ''}"
    aria-label="{label}: {words}"
    data-testid={testid}
  >
    <span class="min-w-0 flex-1 truncate">{words}</span>
    <ChevronDown size={17} class="text-ink-soft shrink-0" aria-hidden="true" />
  </Select.Trigger>
  <Select.Portal to={popups}>
    <Select.Content
      class="panel kit-list z-50 max-h-80 min-w-[var(--bits-select-anchor-width)] overflow-y-auto p-1.5"
      sideOffset={6}
      aria-label={label}
    >
      {#each options as option (option.value)}
        <Select.Item
          value={option.value}
          label={option.words}
          class="kit-item"
          data-testid={testid ? `${testid}-option` : undefined}
        >
          {#snippet children({ selected })}
            <span class="min-w-0 flex-1">
              <span class="block font-semibold">{option.words}</span>
              {#if option.detail}<span class="text-small text-ink-soft block">{option.detail}</span>{/if}
            </span>
            {#if selected}<Check size={18} class="text-lagoon shrink-0" aria-hidden="true" />{/if}
          {/snippet}
        </Select.Item>
      {/each}
    </Select.Content>
  </Select.Portal>
</Select.Root>
