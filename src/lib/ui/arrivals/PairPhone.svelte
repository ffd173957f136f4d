<script lang="ts">
  import { Smartphone } from '@lucide/svelte';
  import { page } from '$app/state';
  import { encode } from 'uqr';
  import { clockWords } from '../clock';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import { attempt, send } from '../net/send';

  let open = $state(false);
  let hours = $state<'1' | '12' | '168'>('12');
  let made = $state.raw<{ code: string; codeUntil: string } | null>(null);
  const address = $derived(`${page.url.origin}/phone`);
  const grid = $derived(made ? encode(`${address}#${made.code}`, { border: 2 }) : null);
  const dark = $derived(
    grid?.data.flatMap((row, y) => row.flatMap((is, x) => (is ? [`M${x} ${y}h1v1h-1z`] : []))).join('') ?? ''
  );
  const spaced = (code: string) => code.match(/.{4}/g)!.join(' ');

  async function make() {
    await attempt(async () => {
      made = await send<typeof made>('POST', '/api/phones', { hours: Number(hours) });
    });
  }
  function show() {
    open = true;
    made = null;
  }
</script>

<button class="button text-small px-3" onclick={show} data-testid="pair-phone"
  ><Smartphone size={17} aria-hidden="true" />Pair a phone</button
>
<Dialog bind:open title="Pair a phone">
  {#if made && grid}
    <div class="flex flex-col items-center gap-3 pb-2">
      <svg
        viewBox="0 0 {grid.size} {grid.size}"
        class="w-64 rounded-lg bg-white"
        role="img"
        aria-label="The code, for a phone’s camera"
        shape-rendering="crispEdges"><path d={dark} fill="#000" /></svg
      >
      <p class="text-title font-bold tracking-widest" data-testid="phone-code">{spaced(made.code)}</p>
      <p class="text-ink-soft text-center">
        Point the phone’s camera at it, or open <span class="text-ink font-semibold">{address}</span> and type
        the code. It works once, until {clockWords(made.codeUntil)}.
      </p>
      {#if /^(127\.|localhost)/.test(page.url.hostname)}
        <p class="bg-brass-wash text-brass rounded-lg px-3 py-2 font-semibold">
          This clinic answers on this machine alone, so no phone reaches that address. Open it by the
          machine’s name in the house’s network.
        </p>
      {/if}
    </div>
  {:else}
    <p class="text-ink-soft mb-3">
      The phone can send pictures in your name, and see nothing. They come to Arrivals.
    </p>
    <Choice
      label="For how long"
      bind:value={hours}
      testid="hours"
      options={[
        { value: '1', words: 'An hour' },
        { value: '12', words: 'This day' },
        { value: '168', words: 'A week' }
      ]}
    />
    <button class="button main mt-4 min-h-12 w-full" onclick={() => void make()} data-testid="show-code"
      >Show the code</button
    >
  {/if}
</Dialog>
