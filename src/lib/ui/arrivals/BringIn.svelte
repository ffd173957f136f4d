<script lang="ts">
  import { Files, FolderOpen, FolderSearch, Mail, Plus } from '@lucide/svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Menu from '../kit/Menu.svelte';
  import { ask, attempt, sendOr } from '../net/send';
  import MailAddress from './MailAddress.svelte';
  import { pickedFiles, uploads } from './uploads.svelte';

  let { onbegun }: { onbegun: () => void } = $props();
  let files = $state<HTMLInputElement>();
  let folder = $state<HTMLInputElement>();
  let choosing = $state(false);
  let mailing = $state(false);
  let folders = $state.raw<string[] | null>(null);

  async function bring(input: HTMLInputElement) {
    const picked = pickedFiles(input.files);
    input.value = '';
    const going = uploads.bring(picked);
    onbegun();
    await going;
  }
  async function choose() {
    choosing = true;
    folders = null;
    ({ folders } = await sendOr<{ folders: string[] }>('/api/intakes/folders', { folders: [] }));
  }
  async function read(path: string) {
    choosing = false;
    if (await attempt(() => ask('/api/intakes/folders', { folder: path }))) onbegun();
  }
</script>

<input
  type="file"
  multiple
  class="hidden"
  bind:this={files}
  onchange={(event) => void bring(event.currentTarget)}
  data-testid="arrival-files"
  tabindex="-1"
  aria-label="Files to bring in"
/>
<input
  type="file"
  webkitdirectory
  class="hidden"
  bind:this={folder}
  onchange={(event) => void bring(event.currentTarget)}
  data-testid="arrival-folder"
  tabindex="-1"
  aria-label="A folder to bring in"
/>
<Menu
  label="Bring something in"
  button="button text-small px-3"
  align="start"
  testid="bring-in"
  items={[
    { words: 'Files or a ZIP', icon: Files, act: () => files?.click() },
    { words: 'A disc or folder', icon: FolderOpen, act: () => folder?.click() },
    {
      words: 'A folder on the server',
      icon: FolderSearch,
      act: () => void choose(),
      testid: 'server-folder'
    },
    { words: 'By mail', icon: Mail, act: () => (mailing = true), testid: 'by-mail' }
  ]}
>
  {#snippet trigger()}<Plus size={17} aria-hidden="true" />Bring in{/snippet}
</Menu>
<Dialog bind:open={choosing} title="A folder on the server">
  {#if folders === null}
    <p class="text-ink-soft">Looking.</p>
  {:else if folders.length === 0}
    <p class="text-ink-soft">
      The server may read no folder as yet. An administrator allows one under Settings, Arrivals.
    </p>
  {:else}
    <ul class="flex flex-col gap-1.5">
      {#each folders as path (path)}
        <li>
          <button class="button w-full justify-start px-3 text-left break-all" onclick={() => void read(path)}
            >{path}</button
          >
        </li>
      {/each}
    </ul>
  {/if}
</Dialog>
<MailAddress bind:open={mailing} />
