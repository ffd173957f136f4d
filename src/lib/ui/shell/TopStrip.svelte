<script lang="ts">
  import { page } from '$app/state';
  import { LogOut, Moon, Search as SearchIcon, Sun } from '@lucide/svelte';
  import type { Snippet } from 'svelte';
  import Search from './Search.svelte';

  interface Props {
    children?: Snippet;
  }
  let { children }: Props = $props();
  let searching = $state(false);
  const who = $derived(
    page.data.who as { name: string; role: string; clinicName: string; dim: boolean } | null
  );
  let dim = $state(page.data.who?.dim ?? false);

  function changeRoom() {
    dim = !dim;
    document.documentElement.dataset.room = dim ? 'dim' : 'bright';
    document.cookie = `room=${dim ? 'dim' : 'bright'}; path=/; max-age=31536000; samesite=lax`;
  }

  function onKey(event: KeyboardEvent) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      searching = true;
    }
  }
</script>

<svelte:window onkeydown={onKey} />

<header class="flex h-15 shrink-0 items-center gap-3 px-4">
  <a href="/" class="flex size-11 shrink-0 items-center justify-center" aria-label="Today">
    <img src="/mark.svg" alt="" class="size-9" />
  </a>
  <div class="flex min-w-0 flex-1 items-center">
    {#if children}{@render children()}{:else}
      <span class="text-title truncate font-bold">{who?.clinicName ?? 'Yonder Tray'}</span>
    {/if}
  </div>
  {#if who}
    <button class="button quiet" onclick={() => (searching = true)} aria-label="Search, Ctrl K">
      <SearchIcon size={20} aria-hidden="true" />
    </button>
    <button
      class="button quiet"
      onclick={changeRoom}
      aria-label={dim ? 'Bright room' : 'Dim room'}
      title={dim ? 'Bright room' : 'Dim room'}
    >
      {#if dim}<Sun size={20} aria-hidden="true" />{:else}<Moon size={20} aria-hidden="true" />{/if}
    </button>
    <div class="text-small hidden max-w-40 text-right leading-tight lg:block">
      <div class="truncate font-semibold">{who.name}</div>
      <div class="text-ink-soft">{who.role}</div>
    </div>
    <form method="POST" action="/sign-out">
      <button class="button quiet" aria-label="Sign out" title="Sign out"
        ><LogOut size={20} aria-hidden="true" /></button
      >
    </form>
  {/if}
</header>
<Search bind:open={searching} />
