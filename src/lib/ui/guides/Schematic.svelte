<script lang="ts">
  import type { GuideView } from '$core/measurement/guides/guide';
  import SchematicLines from './SchematicLines.svelte';
  import { blank, schematicOf } from './schematics';

  interface Props {
    guide: string;
    view: GuideView;
    /** The landmark that is wanted. */
    wanted?: string | null;
    /** Landmarks that are placed. */
    placed?: ReadonlySet<string>;
    /** Shown as in a mirror. */
    mirrored?: boolean;
    /** How high it may be, in rem. */
    most?: number;
  }
  let { guide, view, wanted = null, placed = new Set(), mirrored = false, most = 15 }: Props = $props();
  const drawing = $derived(schematicOf(view.drawing ?? `${guide} ${view.key}`) ?? blank);
  const across = (x: number) => 100 * (mirrored ? 1 - x : x);
  const landmark = $derived(view.landmarks.find(({ key }) => key === wanted));
</script>

{#if drawing.solid.length > 0 || view.landmarks.length > 0}
  {@const { height } = drawing}
  <svg
    viewBox="-4 -4 108 {height + 8}"
    class="mx-auto block max-w-full"
    style="height: {most}rem"
    role="img"
    aria-label="{view.name}{landmark ? `: ${landmark.name}` : ''}"
    data-testid="schematic"
  >
    <SchematicLines {drawing} {mirrored} />
    {#if drawing === blank}
      {#each view.lines ?? [] as [from, to] (`${from} ${to}`)}
        {@const [a, b] = [from, to].map((end) => view.landmarks.find(({ key }) => key === end))}
        {#if a && b}<line
            x1={across(a.onSchematic.x)}
            y1={height * a.onSchematic.y}
            x2={across(b.onSchematic.x)}
            y2={height * b.onSchematic.y}
            class="stroke-ink-soft"
            stroke-width="0.6"
          />{/if}
      {/each}
      {#each view.landmarks as { key, onSchematic } (key)}
        <circle cx={across(onSchematic.x)} cy={height * onSchematic.y} r="1.2" class="fill-ink-soft" />
      {/each}
    {/if}
    {#each view.landmarks as { key, onSchematic } (key)}
      {#if placed.has(key) && key !== wanted}
        <circle cx={across(onSchematic.x)} cy={height * onSchematic.y} r="1.5" class="fill-lagoon" />
      {/if}
    {/each}
    {#if landmark}
      {@const { x, y } = landmark.onSchematic}
      <circle cx={across(x)} cy={height * y} r="5" class="fill-coral" opacity="0.2" />
      <circle cx={across(x)} cy={height * y} r="5" class="stroke-coral" stroke-width="1.4" fill="none" />
      <circle cx={across(x)} cy={height * y} r="1.5" class="fill-coral" />
    {/if}
  </svg>
{/if}
