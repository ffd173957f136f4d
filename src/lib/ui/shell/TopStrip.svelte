<script lang="ts">
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import {
    CircleUser,
    Inbox,
    LibraryBig,
    LogOut,
    Mail,
    Moon,
    Route,
    Search as SearchIcon,
    Settings2,
    ShieldCheck,
    Sun
  } from '@lucide/svelte';
  import type { Snippet } from 'svelte';
  import type { LayoutData } from '../../../routes/$types';
  import Menu from '../kit/Menu.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import Search from './Search.svelte';

  interface Props {
    children?: Snippet;
  }
  let { children }: Props = $props();
  let searching = $state(false);
  let leaving = $state<HTMLFormElement>();
  const who = $derived((page.data as LayoutData).who);
  const arrivals = $derived((page.data as LayoutData).arrivals);
  let dim = $state((page.data as LayoutData).who?.dim ?? false);

  function changeRoom() {
    dim = !dim;
    document.documentElement.dataset.room = dim ? 'dim' : 'bright';
    document.cookie = `room=${dim ? 'dim' : 'bright'}; path=/; max-age=31536000; samesite=lax`;
  }

  const items = $derived([
    { words: dim ? 'Bright room' : 'Dim room', icon: dim ? Sun : Moon, act: changeRoom },
    { words: 'Dispatch', icon: Route, act: () => void goto('/dispatch') },
    { words: 'Shelf', icon: LibraryBig, act: () => void goto('/shelf'), testid: 'to-shelf' },
    { words: 'Letters', icon: Mail, act: () => void goto('/letters'), testid: 'to-letters-page' },
    { words: 'Settings', icon: Settings2, act: () => void goto('/settings') },
    ...(who?.may.readAudit ? [{ words: 'Audit', icon: ShieldCheck, act: () => void goto('/audit') }] : []),
    { words: 'Sign out', icon: LogOut, act: () => leaving?.requestSubmit(), testid: 'sign-out' }
  ]);

  function onKey(event: KeyboardEvent) {
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === 'k') {
      event.preventDefault();
      searching = true;
    }
  }
</script>

<svelte:window onkeydown={onKey} />

<header class="flex h-15 shrink-0 items-center gap-2 px-4">
  <a href="/" class="flex size-11 shrink-0 items-center justify-center" aria-label="Today">
    <img src="/mark.svg" alt="" class="size-9" />
  </a>
  <div class="flex min-w-0 flex-1 items-center">
    {#if children}{@render children()}{:else}
      <span class="text-title truncate font-bold">{who?.clinicName ?? 'Yonder Tray'}</span>
    {/if}
  </div>
  {#if who}
    {#if arrivals > 0 && page.url.pathname !== '/arrivals'}
      <a
        href="/arrivals"
        class="button quiet relative px-2.5"
        aria-label="Arrivals, {arrivals} to sort"
        title="{arrivals} to sort"
        data-testid="arrivals-count"
      >
        <Inbox size={20} aria-hidden="true" />
        <span
          class="bg-brass-wash text-brass text-small absolute top-0.5 -right-0.5 min-w-5 rounded-full px-1 text-center leading-5 font-bold"
          aria-hidden="true">{arrivals > 99 ? '99+' : arrivals}</span
        >
      </a>
    {/if}
    <Tooltip words="Search" key="Ctrl K" button="button quiet" onclick={() => (searching = true)}>
      <SearchIcon size={20} aria-hidden="true" />
    </Tooltip>
    <Menu label="{who.name}, {who.role}" {items} button="button quiet max-w-48 px-2" testid="person">
      {#snippet trigger()}
        <CircleUser size={22} aria-hidden="true" class="shrink-0" />
        <span class="text-small hidden min-w-0 text-left leading-tight xl:block" aria-hidden="true">
          <span class="block truncate">{who.name}</span>
          <span class="text-ink-soft block font-normal">{who.role}</span>
        </span>
      {/snippet}
      {#snippet head()}
        <div class="font-bold">{who.name}</div>
        <div class="text-small text-ink-soft">{who.role}, {who.clinicName}</div>
      {/snippet}
    </Menu>
    <form method="POST" action="/sign-out" bind:this={leaving} class="hidden"></form>
  {/if}
</header>
<Search bind:open={searching} />
