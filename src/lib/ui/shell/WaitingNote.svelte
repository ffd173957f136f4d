<script lang="ts">
  import { page } from '$app/state';
  import { CloudOff, TriangleAlert } from '@lucide/svelte';
  import { clockWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import { outbox } from '../net/outbox.svelte';
  import { countWords } from '../words';

  let open = $state(false);
  const waiting = $derived(outbox.waiting);
  /** Files are told of where they come in; elsewhere they are told of here, as everything else. */
  const listed = $derived(page.route.id === '/visits/[visit]/acquire');
  const refused = $derived(outbox.refused.filter((change) => !(listed && change.file)));
  const shows = $derived((outbox.held !== 'no' && waiting.length > 0) || refused.length > 0);
  /** It covers nothing: the page makes room for it at the lower edge. */
  const roomPx = 48;
  $effect(() => {
    document.documentElement.style.setProperty('--told', shows ? `${roomPx}px` : '0px');
  });
  const back = $derived(`/sign-in?to=${encodeURIComponent(page.url.pathname + page.url.search)}`);
  const where = $derived(
    outbox.durable ? 'They are kept on this machine until then.' : 'Keep this page open until then.'
  );
</script>

{#if shows}
  <div
    role="status"
    class="bg-brass-wash text-brass border-brass sticky bottom-0 z-50 flex h-12 items-center justify-center gap-3 border-t px-4 font-semibold print:hidden"
    data-testid="waiting"
  >
    {#if refused.length > 0}<TriangleAlert size={20} class="shrink-0" aria-hidden="true" />{:else}<CloudOff
        size={20}
        class="shrink-0"
        aria-hidden="true"
      />{/if}
    <span class="line-clamp-2 leading-tight">
      {#if outbox.held === 'unreachable' && waiting.length > 0}
        {countWords(waiting.length, 'change waits', 'changes wait')} until Yonder Tray answers. {where}
      {:else if outbox.held === 'signed-out' && waiting.length > 0}
        {countWords(waiting.length, 'change waits', 'changes wait')} until you sign in again. {where}
      {/if}
      {#if refused.length > 0}{countWords(refused.length, 'change', 'changes')} could not be kept.{/if}
    </span>
    {#if outbox.held === 'signed-out'}<a class="button min-h-9 px-3" href={back} data-sveltekit-reload
        >Sign in</a
      >{/if}
    <button class="button min-h-9 px-3" onclick={() => (open = true)}>Show</button>
  </div>
{/if}

<Dialog bind:open title="Changes made here">
  <ul class="flex flex-col gap-2">
    {#each [...refused, ...waiting] as change (change.key)}
      <li class="border-rule flex items-start gap-3 rounded-lg border px-3 py-2" data-testid="waiting-change">
        <span class="min-w-0 flex-1">
          <span class="block font-semibold">{change.words}</span>
          <span class="text-small text-ink-soft block">made at {clockWords(change.madeAt)}</span>
          {#if change.refused}
            <span class="text-small text-brass block font-semibold"
              >{change.refused.sentence} {change.refused.next}</span
            >
          {:else}<span class="text-small text-ink-soft block">waits</span>{/if}
        </span>
        {#if change.refused}
          <button class="button px-3" onclick={() => outbox.offerAgain(change.key)}>Try again</button>
          <button class="button px-3" onclick={() => outbox.remove(change.key)}>Remove</button>
        {/if}
      </li>
    {:else}<li class="text-ink-soft">Everything is kept.</li>{/each}
  </ul>
</Dialog>
