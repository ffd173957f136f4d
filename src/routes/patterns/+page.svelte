<script lang="ts">
  import { Copy, Plus } from '@lucide/svelte';
  import { trades } from '$core/tray/pattern';
  import { again } from '$ui/net/going';
  import MiniTray from '$ui/acquire/MiniTray.svelte';
  import Choice from '$ui/kit/Choice.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import { ask, attempt } from '$ui/net/send';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { countWords, tradeWords } from '$ui/words';

  let { data } = $props();
  const may = $derived(data.who!.may);
  const shownTrades = trades.filter((each) => each !== 'eyes');
  let trade = $state<(typeof trades)[number]>('teeth');
  let retired = $state(false);
  const shown = $derived(
    data.patterns.filter((each) => each.pattern.trade === trade && each.retired === retired)
  );
  const wellsOf = (slots: (typeof data.patterns)[number]['pattern']['slots']) =>
    slots.map(({ at, shape }) => ({ ...at, shape }));

  async function retire(id: string, is: boolean) {
    await attempt(() => ask(`/api/patterns/${id}`, { retired: is }));
    await again('yonder:patterns');
  }
</script>

<svelte:head><title>Patterns · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto max-w-6xl px-6 pt-4 pb-8">
  <div class="mb-3 flex flex-wrap items-center gap-3">
    <h1 class="text-title mr-4 font-bold">Patterns</h1>
    <Choice
      label="Trade"
      bind:value={trade}
      testid="trade"
      options={shownTrades.map((each) => ({ value: each, words: tradeWords[each] }))}
    />
    <Switch bind:checked={retired} words="Retired ones" />
    {#if may.layPatterns}
      <a class="button main ml-auto" href="/patterns/new?trade={trade}" data-testid="new-pattern"
        ><Plus size={18} aria-hidden="true" />Lay a new one</a
      >
    {/if}
  </div>
  <ul class="grid gap-2 lg:grid-cols-2">
    {#each shown as { pattern, shipped, own } (pattern.ref.id)}
      <li class="panel flex items-center gap-3 py-2 pr-2 pl-4" data-testid="pattern-entry">
        <MiniTray wells={wellsOf(pattern.slots)} />
        <span class="min-w-0 flex-1">
          <span class="block leading-tight font-semibold">{pattern.name}</span>
          <span class="text-small text-ink-soft"
            >{countWords(pattern.slots.length, 'slot', 'slots')}{shipped
              ? ''
              : `, version ${pattern.ref.version}`}{own ? ', along your own route' : ''}</span
          >
        </span>
        <a class="button px-3" href="/patterns/{pattern.ref.id}"
          >{shipped || !may.layPatterns ? 'Look' : 'Change'}</a
        >
        {#if may.layPatterns}
          <a
            class="button px-3"
            href="/patterns/new?from={pattern.ref.id}"
            aria-label="A copy of {pattern.name}"><Copy size={17} aria-hidden="true" />Copy</a
          >
          <button class="button px-3" onclick={() => retire(pattern.ref.id, !retired)}
            >{retired ? 'Bring back' : 'Retire'}</button
          >
        {/if}
      </li>
    {:else}
      <li class="text-ink-soft">{retired ? 'None is retired.' : 'None yet.'}</li>
    {/each}
  </ul>
</main>
