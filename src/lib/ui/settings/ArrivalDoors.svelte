<script lang="ts">
  import { Trash2 } from '@lucide/svelte';
  import { untrack } from 'svelte';
  import { page } from '$app/state';
  import Choice from '../kit/Choice.svelte';
  import TextField from '../kit/TextField.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { ask, attempt } from '../net/send';

  interface Sender {
    senderId: string;
    name: string;
    address: string | null;
    aeTitle: string | null;
    hasToken: boolean;
  }
  interface Props {
    senders: Sender[];
    folders: string[];
    /** The ports where mail and other systems come in; null where that is not set up. */
    doors: { mail: string | null; dicom: string | null };
    mayChange: boolean;
    onkept: () => void;
  }
  let { senders, folders, doors, mayChange, onkept }: Props = $props();
  let kind = $state<'mail' | 'dimse' | 'web'>('mail');
  let name = $state('');
  let how = $state('');
  let token = $state<{ name: string; token: string } | null>(null);
  let folderText = $state(untrack(() => folders.join('\n')));

  const howWords = ({ address, aeTitle }: Sender) =>
    address ?? (aeTitle ? `DIMSE, as ${aeTitle}` : 'DICOMweb, with a token');
  async function add() {
    const wish = {
      kind,
      name,
      ...(kind === 'mail' ? { address: how } : kind === 'dimse' ? { aeTitle: how } : {})
    };
    await attempt(async () => {
      const added = await ask<{ token: string | null }>('/api/senders', wish);
      token = added.token ? { name, token: added.token } : null;
      name = how = '';
      onkept();
    });
  }
  const drop = (senderId: string) =>
    attempt(async () => {
      await ask(`/api/senders/${senderId}`, {}, 'DELETE');
      onkept();
    });
  const keepFolders = () =>
    attempt(async () => {
      await ask('/api/read-folders', {
        folders: folderText
          .split('\n')
          .map((each) => each.trim())
          .filter(Boolean)
      });
      onkept();
    });
</script>

<section class="panel p-6" aria-labelledby="doors" data-testid="arrival-doors">
  <h2 id="doors" class="text-lead font-bold">Arrivals</h2>
  <p class="text-ink-soft mb-3">
    Who may send pictures here. Mail from others waits apart; systems that stand on no line are turned away.
    {#if doors.mail && doors.dicom}
      Mail comes in at port {doors.mail}, DIMSE at port {doors.dicom}, DICOMweb at {page.url.origin}/dicomweb.
    {/if}
  </p>
  <ul class="flex flex-col gap-1.5">
    {#each senders as each (each.senderId)}
      <li class="border-rule flex min-h-12 items-center gap-3 rounded-lg border px-4" data-testid="sender">
        <span class="font-semibold">{each.name}</span>
        <span class="text-ink-soft min-w-0 flex-1 truncate">{howWords(each)}</span>
        {#if mayChange}
          <Tooltip
            words="Take {each.name} out"
            button="flex size-11 items-center justify-center rounded-lg"
            onclick={() => void drop(each.senderId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
          >
        {/if}
      </li>
    {:else}<li class="text-ink-soft">Nobody is known as yet.</li>{/each}
  </ul>
  {#if token}
    <p class="bg-brass-wash text-brass mt-3 rounded-lg px-3 py-2 font-semibold" data-testid="sender-token">
      The token of {token.name}, shown this once:
      <span class="font-mono break-all select-all">{token.token}</span>
    </p>
  {/if}
  {#if mayChange}
    <form
      class="border-rule mt-4 flex flex-wrap items-end gap-3 border-t pt-4"
      onsubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <Choice
        label="How it sends"
        bind:value={kind}
        options={[
          { value: 'mail', words: 'Mail' },
          { value: 'dimse', words: 'DIMSE' },
          { value: 'web', words: 'DICOMweb' }
        ]}
      />
      <div class="w-56"><TextField label="Who" bind:value={name} most={80} testid="sender-name" /></div>
      {#if kind !== 'web'}
        <div class="w-64">
          <TextField
            label={kind === 'mail' ? 'Mail address' : 'Application entity title'}
            bind:value={how}
            most={200}
            testid="sender-how"
          />
        </div>
      {/if}
      <button
        class="button"
        disabled={name.trim() === '' || (kind !== 'web' && how.trim() === '')}
        data-testid="add-sender">Add it</button
      >
    </form>
    <form
      class="border-rule mt-4 flex flex-col gap-3 border-t pt-4"
      onsubmit={(event) => {
        event.preventDefault();
        void keepFolders();
      }}
    >
      <TextField
        label="Folders on the server from which discs may be read, one a line"
        long
        bind:value={folderText}
        example="/media/discs"
        testid="read-folders"
      />
      <button class="button self-start">Keep them</button>
    </form>
  {:else if folders.length > 0}
    <p class="mt-3">Discs are read from {folders.join(', ')}.</p>
  {/if}
</section>
