<script lang="ts">
  import { Check } from '@lucide/svelte';
  import { page } from '$app/state';
  import { type StationState, isAtTable, stationNames } from '$core/visit/course';

  let {
    states,
    clear,
    base,
    present
  }: { states: StationState[]; clear: boolean; base: string; present: string } = $props();
  const address = (station: string) =>
    `${base}/${station}${isAtTable(station) && isAtTable(present) ? page.url.search : ''}`;
</script>

<nav aria-label="Course of the visit" class="flex h-14 shrink-0 items-stretch px-4" data-testid="course">
  {#each states as { station, left, required, doubtful = 0, words }, i (station)}
    {@const here = station === present}
    {@const quiet = left === 0}
    {@const done = quiet && required}
    <a
      href={address(station)}
      aria-current={here ? 'step' : undefined}
      data-sveltekit-preload-code="eager"
      class="group relative flex min-w-0 flex-1 items-center gap-2.5 pr-2"
      data-testid="station-{station}"
    >
      {#if i > 0}<span class="bg-rule absolute top-1/2 right-full -z-0 h-px w-3" aria-hidden="true"
        ></span>{/if}
      <span
        class="text-small flex size-8 shrink-0 items-center justify-center rounded-full font-bold {here
          ? 'bg-coral text-on-fill'
          : done
            ? 'bg-lagoon-wash text-lagoon'
            : quiet
              ? 'border-ink-soft text-ink-soft border'
              : 'border-brass text-brass border-2'}"
        aria-hidden="true"
      >
        {#if done && !here}<Check size={16} />{:else if left > 0}{left}{:else}<span
            class="size-2 rounded-full bg-current"
          ></span>{/if}
      </span>
      <span class="min-w-0 shrink leading-tight">
        <span class="block truncate font-bold {here ? 'text-coral' : 'text-ink'}"
          >{stationNames[station]}</span
        >
        <span
          class="text-small block truncate {quiet && doubtful === 0
            ? 'text-ink-soft'
            : 'text-brass font-semibold'}">{words}</span
        >
      </span>
      {#if i < states.length - 1}<span class="bg-rule h-px min-w-3 flex-1" aria-hidden="true"></span>{/if}
    </a>
  {/each}
  {#if clear}
    <span class="chip bg-lagoon text-on-fill my-auto" data-testid="clear"
      ><Check size={16} aria-hidden="true" />The visit is clear</span
    >
  {/if}
</nav>
