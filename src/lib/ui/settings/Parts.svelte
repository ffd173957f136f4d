<script lang="ts">
  import { goto } from '$app/navigation';
  import { ExternalLink } from '@lucide/svelte';
  import { type SettingsPart, foundParts, hrefOf } from './parts';

  /** The parts of the settings by groups, and a search over what is in them. */
  let { parts, present }: { parts: readonly SettingsPart[]; present: string } = $props();
  let words = $state('');
  const found = $derived(foundParts(parts, words));
  /** The part that is looked at is in sight, however far down the list. */
  const inSight = (is: boolean) => (link: HTMLElement) => {
    if (is) link.scrollIntoView({ block: 'nearest' });
  };
  const groups = $derived([...new Set(found.map(({ part }) => part.group))]);
</script>

<nav class="flex min-h-0 flex-col gap-3" aria-label="Settings">
  <form
    onsubmit={(event) => {
      event.preventDefault();
      if (found[0]) void goto(hrefOf(found[0].part));
    }}
  >
    <label
      ><span class="sr-only">Look for a setting</span>
      <input
        type="search"
        class="border-rule bg-sheet min-h-11 w-full rounded-lg border px-3"
        placeholder="Look for a setting"
        bind:value={words}
        data-testid="settings-search"
      /></label
    >
  </form>
  <div class="-m-1 min-h-0 flex-1 overflow-y-auto p-1">
    {#each groups as group (group)}
      <h2 class="heading mt-2 mb-1">{group}</h2>
      <ul>
        {#each found.filter(({ part }) => part.group === group) as { part, by } (part.key)}
          <li>
            <a
              href={hrefOf(part)}
              class="hover:bg-tray flex min-h-11 items-center gap-2 rounded-lg border px-3 leading-tight {part.key ===
              present
                ? 'border-coral bg-coral-wash font-semibold'
                : 'border-transparent'}"
              aria-current={part.key === present ? 'page' : undefined}
              data-testid="part-{part.key}"
              {@attach inSight(part.key === present)}
            >
              <span class="min-w-0 flex-1"
                >{part.words}{#if by}<span class="text-small text-ink-soft block">{by}</span>{/if}</span
              >
              {#if part.href}<ExternalLink size={15} class="text-ink-soft shrink-0" aria-hidden="true" />{/if}
            </a>
          </li>
        {/each}
      </ul>
    {:else}
      <p class="text-ink-soft px-3 py-2" role="status">Nothing is called so.</p>
    {/each}
  </div>
</nav>
