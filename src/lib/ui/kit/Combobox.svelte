<script lang="ts" generics="Found extends { value: string; words: string; detail?: string }">
  import { Search } from '@lucide/svelte';
  import { Combobox } from 'bits-ui';
  import { popups } from './popups';

  interface Props {
    label: string;
    options: readonly Found[];
    /** What is typed, for whoever looks the options up. */
    typed?: string;
    /** What stands in the list when nothing was found. */
    nothing?: string;
    testid?: string;
    autofocus?: boolean;
    onchoose: (value: string) => void;
  }
  let {
    label,
    options,
    typed = $bindable(''),
    nothing = 'Nothing fits these words.',
    testid,
    autofocus = false,
    onchoose
  }: Props = $props();
  let open = $state(false);
  const showing = $derived(open && (options.length > 0 || typed.trim() !== ''));
</script>

<Combobox.Root
  type="single"
  bind:open
  inputValue={typed}
  onValueChange={(value) => {
    if (value) onchoose(value);
  }}
  items={options.map((each) => ({ value: each.value, label: each.words }))}
>
  <div class="relative">
    <Search size={19} class="text-ink-soft absolute top-3.5 left-3" aria-hidden="true" />
    <Combobox.Input
      aria-label={label}
      placeholder={label}
      class="border-rule bg-paper text-lead min-h-12 w-full rounded-lg border pr-3 pl-10"
      oninput={(event) => {
        typed = event.currentTarget.value;
        open = true;
      }}
      onfocus={() => (open = true)}
      {autofocus}
      data-testid={testid}
    />
  </div>
  {#if showing}
    <Combobox.Portal to={popups}>
      <Combobox.Content
        class="panel kit-list z-50 max-h-96 w-[var(--bits-combobox-anchor-width)] overflow-y-auto p-1.5 shadow-lg"
        sideOffset={6}
        aria-label={label}
      >
        {#each options as option (option.value)}
          <Combobox.Item value={option.value} label={option.words} class="kit-item">
            <span class="min-w-0 flex-1 truncate font-semibold">{option.words}</span>
            {#if option.detail}<span class="text-small text-ink-soft shrink-0">{option.detail}</span>{/if}
          </Combobox.Item>
        {:else}
          <p class="text-ink-soft px-3 py-2">{nothing}</p>
        {/each}
      </Combobox.Content>
    </Combobox.Portal>
  {/if}
</Combobox.Root>
