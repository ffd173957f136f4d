<script lang="ts">
  import { Ruler } from '@lucide/svelte';
  import type { PrinterView } from '$core/print/printer';
  import { again } from '../net/going';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';

  /** Which printer it goes to, and how true that one prints. */
  interface Props {
    printers: readonly PrinterView[];
    printerId: string | null;
    onchange: (printerId: string | null) => void;
  }
  let { printers, printerId, onchange }: Props = $props();

  const chosen = $derived(printers.find((each) => each.printerId === printerId));
  let measuring = $state(false);
  let name = $state('');
  let across = $state('100');
  let down = $state('100');
  function begin() {
    name = chosen?.name ?? '';
    across = String(chosen?.acrossMm ?? 100);
    down = String(chosen?.downMm ?? 100);
    measuring = true;
  }
  const mm = (said: string) => Number(said.trim().replace(',', '.'));
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    await attempt(async () => {
      const kept = await ask<PrinterView>('/api/printers', {
        name,
        acrossMm: mm(across),
        downMm: mm(down)
      });
      await again();
      measuring = false;
      onchange(kept.printerId);
    });
  }
  async function drop() {
    if (!chosen) return;
    await attempt(async () => {
      await ask(`/api/printers/${chosen.printerId}`, {}, 'DELETE');
      onchange(null);
      measuring = false;
      await again();
    });
  }
</script>

<div class="flex items-center gap-2">
  <span class="flex-1">Printer</span>
  <div class="w-40">
    <Select
      label="Printer"
      value={printerId ?? ''}
      options={[
        { value: '', words: 'not measured' },
        ...printers.map((each) => ({ value: each.printerId, words: each.name }))
      ]}
      onchange={(value) => onchange(value || null)}
      small
      testid="printer"
    />
  </div>
  <button class="button text-small px-2.5" onclick={begin} data-testid="measure-printer"
    ><Ruler size={16} aria-hidden="true" />Measure</button
  >
</div>

<Dialog
  bind:open={measuring}
  title="How true a printer prints"
  message="Print a sheet at 100 %, lay a ruler on the one that is printed, and enter how long its 100 mm came out."
>
  <form class="flex flex-col gap-3" onsubmit={keep}>
    <TextField label="Printer" bind:value={name} testid="printer-name" />
    <div class="grid grid-cols-2 gap-3">
      <TextField label="Across the sheet, mm" bind:value={across} testid="printer-across" />
      <TextField label="Along the sheet, mm" bind:value={down} testid="printer-down" />
    </div>
    <p class="text-small text-ink-soft">
      A sheet with a ruler of 50 mm: enter twice its length. Pictures and ruler are printed so much larger or
      smaller from then on that they come out true.
    </p>
    <div class="flex justify-end gap-2">
      {#if chosen}<button type="button" class="button mr-auto" onclick={drop} data-testid="printer-drop"
          >Forget {chosen.name}</button
        >{/if}
      <button class="button main" disabled={name.trim() === ''} data-testid="printer-keep">Keep</button>
    </div>
  </form>
</Dialog>
