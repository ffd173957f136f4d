<script lang="ts">
  import Dialog from '../kit/Dialog.svelte';
  import { isForOthers, screenKeys } from './keys.svelte';

  const everywhere = [
    { key: 'Ctrl K', does: 'Find a patient' },
    { key: '?', does: 'These keys' },
    { key: 'Tab', does: 'On to the next thing' }
  ];
  let open = $state(false);
  function onKey(event: KeyboardEvent) {
    if (event.key !== '?' || isForOthers(event)) return;
    event.preventDefault();
    open = true;
  }
</script>

<svelte:window onkeydown={onKey} />

<Dialog bind:open title="Keys of this screen">
  <dl class="grid grid-cols-[auto_1fr] items-baseline gap-x-5 gap-y-1.5" data-testid="keys">
    {#each [...screenKeys(), ...everywhere] as { key, does } (key)}
      <dt class="flex justify-end gap-1">
        {#each key.split(' ') as part (part)}<kbd
            class="border-rule bg-paper rounded-md border px-2 py-0.5 font-semibold">{part}</kbd
          >{/each}
      </dt>
      <dd>{does}</dd>
    {/each}
  </dl>
</Dialog>
