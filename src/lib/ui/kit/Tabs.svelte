<script lang="ts">
  import { Tabs } from 'bits-ui';
  import type { Snippet } from 'svelte';

  interface Props {
    value: string;
    tabs: readonly { value: string; words: string; detail?: string }[];
    label: string;
    onchange?: (value: string) => void;
    /** What stands beside the tabs. */
    beside?: Snippet;
    children: Snippet<[string]>;
  }
  let { value = $bindable(), tabs, label, onchange, beside, children }: Props = $props();
</script>

<Tabs.Root bind:value onValueChange={onchange} class="flex min-h-0 flex-1 flex-col">
  <div class="flex items-end gap-2">
    <Tabs.List class="flex min-w-0 gap-1 overflow-x-auto" aria-label={label}>
      {#each tabs as tab (tab.value)}
        <Tabs.Trigger
          value={tab.value}
          class="text-ink-soft data-[state=active]:border-coral data-[state=active]:text-ink flex min-h-11 shrink-0 items-center gap-2 border-b-[3px] border-transparent px-3 font-semibold whitespace-nowrap"
        >
          {tab.words}
          {#if tab.detail}<span class="text-small font-normal">{tab.detail}</span>{/if}
        </Tabs.Trigger>
      {/each}
    </Tabs.List>
    {#if beside}{@render beside()}{/if}
  </div>
  {#each tabs as tab (tab.value)}
    <Tabs.Content value={tab.value} class="min-h-0 flex-1 outline-none data-[state=inactive]:hidden">
      {#if tab.value === value}{@render children(tab.value)}{/if}
    </Tabs.Content>
  {/each}
</Tabs.Root>
