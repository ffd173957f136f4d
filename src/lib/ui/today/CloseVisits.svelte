<script lang="ts">
  import { DoorClosed, Send } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import Dialog from '../kit/Dialog.svelte';
  import Tick from '../kit/Tick.svelte';
  import { ask, attempt } from '../net/send';
  import { countWords } from '../words';

  /** A visit that could be closed, and what is left in it, in words. */
  interface Closable {
    visitId: string;
    name: string;
    left: string[];
  }
  interface Props {
    open: boolean;
    visits: Closable[];
    ondone: () => void;
  }
  let { open = $bindable(), visits, ondone }: Props = $props();
  let dropped = $state<string[]>([]);
  let problems = $state<Record<string, string>>({});
  let busy = $state(false);
  const chosen = $derived(visits.filter(({ visitId }) => !dropped.includes(visitId)));
  const lone = $derived(visits.length === 1);

  async function close(how: 'close' | 'send and close') {
    busy = true;
    await attempt(async () => {
      const { visits: done } = await ask<{
        visits: { visitId: string; closed: boolean; sent: number; problem: string }[];
      }>('/api/visits/close', { visitIds: chosen.map(({ visitId }) => visitId), how });
      problems = Object.fromEntries(
        done.filter(({ problem }) => problem).map(({ visitId, problem }) => [visitId, problem])
      );
      const sent = done.reduce((sum, each) => sum + each.sent, 0);
      const closed = done.filter((each) => each.closed).length;
      if (closed > 0)
        toast.success(
          `${countWords(closed, 'visit is closed', 'visits are closed')}${sent > 0 ? `, ${countWords(sent, 'picture is', 'pictures are')} on the way` : ''}.`
        );
      ondone();
      if (closed === done.length) open = false;
    });
    busy = false;
  }
</script>

<Dialog
  bind:open
  title={lone ? 'Close the visit' : 'Close visits'}
  message="What is left in them stays as it is, and a closed visit can be opened again."
>
  <ul class="flex max-h-[46vh] flex-col gap-2 overflow-y-auto" data-testid="closable">
    {#each visits as { visitId, name, left } (visitId)}
      <li class="border-rule flex items-start gap-2 rounded-lg border py-1 pr-3" data-testid="closable-visit">
        {#if !lone}
          <Tick
            checked={!dropped.includes(visitId)}
            label="Close {name}"
            onchange={(is) => (dropped = is ? dropped.filter((id) => id !== visitId) : [...dropped, visitId])}
          />
        {:else}<span class="w-1"></span>{/if}
        <div class="min-w-0 flex-1 py-1.5">
          <span class="block font-semibold">{name}</span>
          <span class="text-small block {left.length > 0 ? 'text-brass font-semibold' : 'text-lagoon'}"
            >{left.length > 0 ? `Left: ${left.join(', ')}` : 'Nothing is left'}</span
          >
          {#if problems[visitId]}<span class="text-small text-brass block"
              >Stays open. {problems[visitId]}</span
            >{/if}
        </div>
      </li>
    {/each}
  </ul>
  <div class="mt-4 flex flex-wrap justify-end gap-2">
    <button class="button" onclick={() => (open = false)}>Keep open</button>
    <button
      class="button"
      disabled={busy || chosen.length === 0}
      onclick={() => void close('close')}
      data-testid="close-only"><DoorClosed size={18} aria-hidden="true" />Close</button
    >
    <button
      class="button main"
      disabled={busy || chosen.length === 0}
      onclick={() => void close('send and close')}
      data-testid="send-and-close"><Send size={18} aria-hidden="true" />Send and close</button
    >
  </div>
</Dialog>
