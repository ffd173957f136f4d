<script lang="ts">
  import { type OpenPdf, openPdf } from './pdfPages';

  interface Props {
    /** The PDF: what is seen is what is shared. */
    bytes: Uint8Array;
    /** What it is called, for whoever hears it. */
    label: string;
    onopened?: (sheets: number) => void;
  }
  let { bytes, label, onopened }: Props = $props();

  let pdf = $state.raw<{ open: OpenPdf; words: string[] } | null>(null);

  $effect(() => {
    const given = bytes;
    let gone = false;
    let opened: OpenPdf | null = null;
    void (async () => {
      const open = await openPdf(given);
      if (gone) return open.close();
      opened = open;
      const words = await Promise.all(Array.from({ length: open.sheets }, (_, i) => open.words(i + 1)));
      if (gone) return;
      pdf = { open, words };
      onopened?.(open.sheets);
    })();
    return () => {
      gone = true;
      opened?.close();
    };
  });

  const drawn = (open: OpenPdf, sheet: number) => (canvas: HTMLCanvasElement) => {
    const width = canvas.clientWidth * devicePixelRatio;
    // A sheet that went away meanwhile is not drawn.
    void open.draw(sheet, canvas, width).then(
      () => (canvas.dataset.drawn = 'yes'),
      () => {}
    );
  };
</script>

<ol class="flex flex-col items-center gap-4" aria-label={label} data-testid="sheets">
  {#if pdf}
    {#each pdf.words as words, i (i)}
      <li class="w-full max-w-[52rem] bg-white shadow-lg" data-testid="sheet">
        <canvas
          class="block w-full"
          style:aspect-ratio="{pdf.open.sizeMm.width} / {pdf.open.sizeMm.height}"
          aria-hidden="true"
          {@attach drawn(pdf.open, i + 1)}
        ></canvas>
        <p class="sr-only">Sheet {i + 1} of {pdf.words.length}. {words}</p>
      </li>
    {/each}
  {/if}
</ol>
