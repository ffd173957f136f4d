<script lang="ts">
  import type { Schematic } from './schematics';

  interface Props {
    drawing: Schematic;
    mirrored: boolean;
    /** Paler, where it lies under what is drawn on it. */
    soft?: boolean;
  }
  let { drawing, mirrored, soft = false }: Props = $props();
  const stroke = $derived(soft ? 'stroke-ink-soft' : 'stroke-ink');
  const thin = $derived(soft ? 0.7 : 1);
</script>

<g
  transform={(drawing.mirrored ?? false) !== mirrored ? 'translate(100 0) scale(-1 1)' : undefined}
  fill="none"
  stroke-linejoin="round"
  stroke-linecap="round"
>
  {#each drawing.faint as d (d)}<path
      {d}
      class="stroke-ink-soft"
      stroke-width={0.5 * thin}
      opacity="0.6"
    />{/each}
  {#each drawing.solid as d (d)}<path
      {d}
      class="{soft ? 'fill-tray' : 'fill-paper'} {stroke}"
      stroke-width={0.9 * thin}
    />{/each}
  {#each drawing.fine as d (d)}<path {d} class={stroke} stroke-width={0.6 * thin} />{/each}
</g>
