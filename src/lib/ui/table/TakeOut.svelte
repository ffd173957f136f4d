<script lang="ts">
  import { Download, FileInput, Printer } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { isReading } from '$core/picture/readings';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Switch from '../kit/Switch.svelte';
  import { attempt, refusal } from '../net/send';
  import { countWords } from '../words';
  import type { LightTable } from './table.svelte';

  let { table, open = $bindable() }: { table: LightTable; open: boolean } = $props();
  const picture = $derived(table.picture!);
  const measured = $derived(
    table.edits.readings.some(
      ({ item, values }) => isReading(item.kind) && (values.length > 0 || item.kind === 'guide')
    )
  );
  type Kind = 'png' | 'jpeg' | 'tiff' | 'presentation' | 'report' | 'csv';
  let as = $state<Kind>('png');
  let drawings = $state(true);
  let bar = $state(false);
  const kinds = $derived<{ value: Kind; words: string; tells: string; names?: true }[]>([
    { value: 'png', words: 'PNG', tells: 'As it is seen here: turned, through its look, nothing lost.' },
    { value: 'jpeg', words: 'JPEG', tells: 'As it is seen here, in a small file; fine detail suffers.' },
    {
      value: 'tiff',
      words: 'TIFF',
      tells: `The samples as they were stored, ${picture.bitsStored} bit, without look, turn or drawings${picture.frames > 1 ? ', of the frame that is shown' : ''}.`
    },
    {
      value: 'csv',
      words: 'CSV',
      tells:
        'All readings of this visit as a table, each with its ±, its scale, who made it and who confirmed it.'
    },
    {
      value: 'presentation',
      words: 'How it is seen',
      tells: 'A DICOM presentation state: look, turn and drawings, for the picture where it lies already.',
      names: true
    },
    ...(measured
      ? [
          {
            value: 'report' as const,
            words: 'Report',
            tells:
              'A DICOM structured report (TID 1500) of its readings and landmarks, each with its ± and where it was taken.',
            names: true as const
          }
        ]
      : [])
  ]);
  const chosen = $derived(kinds.find(({ value }) => value === as) ?? kinds[0]);
  const seen = $derived(as === 'png' || as === 'jpeg');
  const address = $derived.by(() => {
    if (as === 'csv') return `/api/visits/${picture.visitId}/readings`;
    const asked = new URLSearchParams({ as, frame: String(table.frame) });
    if (seen && drawings) asked.set('drawings', 'yes');
    if (seen && bar) asked.set('bar', 'yes');
    return `/api/pictures/${picture.pictureId}/out?${asked}`;
  });

  interface ReadOnto {
    count: number;
    leftOut: string[];
  }
  let picker = $state<HTMLInputElement>();
  /** Puts what a file says of this picture onto it. */
  async function readBack() {
    const file = picker?.files?.[0];
    if (!file) return;
    await attempt(async () => {
      const answer = await fetch(`/api/pictures/${picture.pictureId}/told`, {
        method: 'POST',
        headers: { 'content-type': 'application/octet-stream', 'idempotency-key': crypto.randomUUID() },
        body: file
      });
      const said = (await answer.json().catch(() => ({}))) as ReadOnto & Parameters<typeof refusal>[1];
      if (!answer.ok) throw refusal(answer.status, said);
      toast(
        `${countWords(said.count, 'drawing or reading', 'drawings and readings')} read onto the picture.`,
        {
          description: said.leftOut.length > 0 ? `Left out: ${said.leftOut.join('; ')}.` : undefined
        }
      );
      open = false;
    });
    if (picker) picker.value = '';
  }
</script>

<Dialog bind:open title="Take out" message={table.name}>
  <div class="flex flex-col gap-4">
    <div class="flex flex-wrap gap-1">
      <Choice label="As what" testid="out" bind:value={as} options={kinds} />
    </div>
    <p>{chosen.tells}</p>
    {#if seen}
      <div class="flex flex-wrap gap-x-6">
        <Switch bind:checked={drawings} words="With its drawings and readings" testid="out-drawings" />
        <Switch bind:checked={bar} words="With a scale bar" testid="out-bar" />
      </div>
      {#if bar && !table.edits.scale}<p class="text-brass font-semibold">
          This picture has no scale: the bar counts pixels.
        </p>{/if}
    {/if}
    <p class="text-small text-ink-soft">
      {chosen.names
        ? 'It holds the patient’s name and number.'
        : as === 'csv'
          ? 'It names who measured and who confirmed, and pictures by what they or their files are called.'
          : 'It holds no name, unless one is written in the picture. De-identify veils what is.'}
      That it was taken out is written in the audit.
    </p>
    <a
      class="button main text-lead min-h-13"
      href={address}
      download
      data-sveltekit-reload
      onclick={() => (open = false)}
      data-testid="out-go"><Download size={20} aria-hidden="true" />Take it out</a
    >
    <div class="border-rule flex items-center gap-3 border-t pt-3">
      <p class="text-small text-ink-soft flex-1">
        On paper it can be as large as it is, with a ruler to prove it, or one of many on a sheet.
      </p>
      <a
        class="button"
        href="/visits/{picture.visitId}/print?picture={picture.pictureId}"
        data-testid="out-print"><Printer size={18} aria-hidden="true" />Print</a
      >
    </div>
    {#if table.may.changePictures}
      <div class="border-rule flex items-center gap-3 border-t pt-3">
        <p class="text-small text-ink-soft flex-1">
          A presentation state or a report about this picture, from here or elsewhere, can be read back onto
          it.
        </p>
        <button class="button" onclick={() => picker?.click()}
          ><FileInput size={18} aria-hidden="true" />Read one</button
        >
        <input
          bind:this={picker}
          type="file"
          accept=".dcm,application/dicom"
          class="sr-only"
          tabindex="-1"
          aria-label="A presentation state or report about this picture"
          onchange={() => void readBack()}
          data-testid="read-told"
        />
      </div>
    {/if}
  </div>
</Dialog>
