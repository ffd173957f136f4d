<script lang="ts">
  import { Pencil, Trash2 } from '@lucide/svelte';
  import type { NamedLook, OwnLook } from '$core/raster/look/ownLook';
  import Dialog from '../kit/Dialog.svelte';
  import TextField from '../kit/TextField.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { ask, attempt } from '../net/send';
  import { stepWords } from '../table/beads';

  interface Props {
    looks: readonly NamedLook[];
    /** Those whose pictures open with one of them. */
    devices: readonly { name: string; opensWith: string | null }[];
    mayChange: boolean;
    onkept: () => void;
  }
  let { looks, devices, mayChange, onkept }: Props = $props();
  let renamed = $state.raw<NamedLook | null>(null);
  let renaming = $state(false);
  let name = $state('');

  /** The greys that a picture opens with, from dark to bright, as the look shows them. */
  function greys({ from, to, steps }: OwnLook): string {
    const turned = steps.filter(({ kind }) => kind === 'invert').length % 2 === 1;
    const [dark, bright] = turned ? ['#fff', '#000'] : ['#000', '#fff'];
    return `linear-gradient(to right, ${dark} ${100 * from}%, ${bright} ${100 * to}%)`;
  }
  const percent = (share: number) => `${Math.round(100 * share)}`;
  const inWords = ({ from, to, steps }: OwnLook) =>
    [
      `window ${percent(from)} to ${percent(to)} %`,
      ...steps.map(({ kind }) => stepWords(kind).toLowerCase())
    ].join(', ');
  const openWith = (lookId: string) =>
    devices.filter(({ opensWith }) => opensWith === lookId).map(({ name: device }) => device);

  function rename(look: NamedLook) {
    renamed = look;
    name = look.name;
    renaming = true;
  }
  async function keepName(event: SubmitEvent) {
    event.preventDefault();
    const { lookId } = renamed!;
    if (await attempt(() => ask(`/api/looks/${lookId}`, { name: name.trim() }))) {
      renaming = false;
      onkept();
    }
  }
  async function drop(lookId: string) {
    await attempt(() => ask(`/api/looks/${lookId}`, {}, 'DELETE'));
    onkept();
  }
  const round = 'flex size-11 shrink-0 items-center justify-center rounded-lg';
</script>

<section class="panel p-6" aria-labelledby="looks">
  <h2 id="looks" class="text-lead font-bold">Looks</h2>
  <p class="text-ink-soft mb-3">
    Made at a picture on the light table and kept there under a name, for all pictures and for what a device’s
    pictures open with. A picture that was given one stays as it is when that is dropped.
    {#if !mayChange}Assistants and clinicians keep, rename and drop them.{/if}
  </p>
  <ul class="flex flex-col gap-1.5" data-testid="looks">
    {#each looks as each (each.lookId)}
      {@const of = openWith(each.lookId)}
      <li class="border-rule flex min-h-14 items-center gap-3 rounded-lg border py-1 pl-3" data-testid="look">
        <span
          class="border-rule h-9 w-28 shrink-0 rounded border"
          style:background={greys(each.look)}
          role="img"
          aria-label="Greys of {each.name}"
        ></span>
        <span class="min-w-0 flex-1 leading-tight {mayChange ? '' : 'pr-4'}">
          <span class="block font-semibold break-words">{each.name}</span>
          <span class="text-small text-ink-soft block"
            >{inWords(each.look)}{of.length > 0 ? `. ${of.join(', ')}: pictures open with it` : ''}</span
          >
        </span>
        {#if mayChange}
          <Tooltip words="Rename {each.name}" button={round} testid="rename-look" onclick={() => rename(each)}
            ><Pencil size={18} aria-hidden="true" /></Tooltip
          >
          <Tooltip
            words="Drop {each.name}"
            button={round}
            testid="drop-look"
            onclick={() => drop(each.lookId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
          >
        {/if}
      </li>
    {:else}<li class="text-ink-soft">None yet: keep one at a picture on the light table.</li>{/each}
  </ul>
</section>

<Dialog bind:open={renaming} title="Rename this look">
  <form onsubmit={keepName} class="flex flex-col gap-3">
    <TextField label="Name" bind:value={name} most={40} example="Fine apex" testid="look-name" />
    <button class="button main" disabled={name.trim() === ''} data-testid="look-keep">Keep it</button>
  </form>
</Dialog>
