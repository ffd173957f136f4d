<script lang="ts">
  import { BookmarkPlus, Copy, EllipsisVertical, Trash2 } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { page } from '$app/state';
  import { type NamedLook, ownLookOf, withOwnLook } from '$core/raster/look/ownLook';
  import { again } from '../net/going';
  import Dialog from '../kit/Dialog.svelte';
  import Menu from '../kit/Menu.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';
  import { countWords } from '../words';
  import type { LightTable } from './table.svelte';

  let { table }: { table: LightTable } = $props();
  const picture = $derived(table.picture!);
  const looks = $derived((page.data.looks ?? []) as NamedLook[]);
  let naming = $state(false);
  let dropping = $state(false);
  let name = $state('');
  const notTold = () =>
    toast.warning('This look can’t be given to other pictures.', {
      description: 'Its thread has to begin with a window, which every picture has in values of its own.'
    });

  function keep(event: SubmitEvent) {
    event.preventDefault();
    const look = ownLookOf(table.edits.look, picture.firstLook);
    if (!look) return notTold();
    return attempt(async () => {
      await ask('/api/looks', { name: name.trim(), look });
      await again();
      naming = false;
      name = '';
    });
  }
  const drop = (lookId: string) =>
    attempt(async () => {
      await ask(`/api/looks/${lookId}`, {}, 'DELETE');
      await again();
      if (looks.length === 0) dropping = false;
    });

  const items = $derived([
    {
      words: 'Keep this look under a name',
      icon: BookmarkPlus,
      testid: 'keep-look',
      act: () => (naming = true)
    },
    ...(table.sameKind.length > 0
      ? [
          {
            words: `Give it to ${countWords(table.sameKind.length, 'other picture', 'other pictures')} of this visit`,
            icon: Copy,
            testid: 'give-look',
            act: () => {
              if (!table.giveLookTo(table.sameKind)) notTold();
            }
          }
        ]
      : []),
    ...(looks.length > 0
      ? [
          {
            words: 'Drop one of the clinic’s looks',
            icon: Trash2,
            testid: 'drop-look',
            act: () => (dropping = true)
          }
        ]
      : [])
  ]);
</script>

<div class="flex gap-1.5">
  {#if looks.length > 0}
    <Select
      label="The clinic’s own looks"
      empty="Our own looks"
      value=""
      options={looks.map(({ lookId, name: words }) => ({ value: lookId, words }))}
      testid="own-look"
      onchange={(id) =>
        table.edits.setLook(
          withOwnLook(looks.find(({ lookId }) => lookId === id)!.look, picture.firstLook),
          true
        )}
    />
  {:else}<p class="text-small text-ink-soft flex-1 self-center">No look of our own yet</p>{/if}
  <Menu label="More to do with this look" button="button px-2.5" testid="look-menu" {items}>
    {#snippet trigger()}<EllipsisVertical size={18} aria-hidden="true" />{/snippet}
  </Menu>
</div>

<Dialog
  bind:open={naming}
  title="Keep this look"
  message="For all pictures of the clinic. Its window goes by the one that each picture opens with; one of the same name is replaced."
>
  <form onsubmit={keep} class="flex flex-col gap-3">
    <TextField label="Name" bind:value={name} most={40} example="Fine apex" testid="look-name" />
    <button class="button main" disabled={name.trim() === ''} data-testid="look-keep">Keep it</button>
  </form>
</Dialog>
<Dialog bind:open={dropping} title="Drop a look" message="Pictures that were given it stay as they are.">
  <ul class="flex flex-col gap-1.5">
    {#each looks as { lookId, name: words } (lookId)}
      <li class="border-rule flex items-center justify-between rounded-lg border py-1 pr-1 pl-3">
        <span class="font-semibold">{words}</span>
        <button class="button quiet px-3" aria-label="Drop {words}" onclick={() => drop(lookId)}
          ><Trash2 size={18} aria-hidden="true" />Drop</button
        >
      </li>
    {/each}
  </ul>
</Dialog>
