<script lang="ts">
  import { type Notation, type Tooth, showTooth, toothName } from '$core/anatomy/teeth';
  import { crownPath, drawnTeeth, mapHeight, mapWidth } from './arch';

  interface Props {
    notation: Notation;
    /** How many pictures each tooth has. */
    counts?: Record<number, number>;
    chosen?: number[];
    /** Teeth that are proposed. */
    offered?: number[];
    onchoose?: (tooth: Tooth) => void;
    label?: string;
  }
  let { notation, counts = {}, chosen = [], offered = [], onchoose, label = 'Tooth map' }: Props = $props();
  const teeth = drawnTeeth();

  function says(tooth: Tooth): string {
    const count = counts[tooth] ?? 0;
    const pictures = count === 0 ? 'no picture' : count === 1 ? '1 picture' : `${count} pictures`;
    return `${showTooth(tooth, notation)}, ${toothName(tooth)}, ${pictures}`;
  }
</script>

<svg viewBox="0 0 {mapWidth} {mapHeight}" class="h-full w-full" role="group" aria-label={label}>
  <text x={mapWidth / 2} y={mapHeight / 2 - 10} text-anchor="middle" class="fill-ink-soft text-small"
    >upper</text
  >
  <line
    x1={mapWidth / 2 - 70}
    x2={mapWidth / 2 + 70}
    y1={mapHeight / 2}
    y2={mapHeight / 2}
    class="stroke-rule"
  />
  <text x={mapWidth / 2} y={mapHeight / 2 + 20} text-anchor="middle" class="fill-ink-soft text-small"
    >lower</text
  >
  <text x={mapWidth / 2 - 96} y={mapHeight / 2 + 5} text-anchor="middle" class="fill-ink-soft text-small"
    >right</text
  >
  <text x={mapWidth / 2 + 96} y={mapHeight / 2 + 5} text-anchor="middle" class="fill-ink-soft text-small"
    >left</text
  >
  {#each teeth as { tooth, x, y, turnDeg, width, depth, labelX, labelY } (tooth)}
    {@const count = counts[tooth] ?? 0}
    {@const isChosen = chosen.includes(tooth)}
    {#snippet drawing()}
      <g transform="translate({x} {y}) rotate({turnDeg})">
        <path
          d={crownPath(width, depth)}
          class={isChosen
            ? 'fill-ink stroke-ink'
            : count > 0
              ? 'fill-lagoon-wash stroke-lagoon'
              : 'fill-sheet stroke-ink-soft'}
          stroke-width={isChosen || count > 0 ? 2 : 1.2}
          stroke-dasharray={offered.includes(tooth) && !isChosen ? '4 3' : undefined}
        />
      </g>
      {#if count > 0}
        <text
          {x}
          y={y + 4.5}
          text-anchor="middle"
          class="text-small font-bold {isChosen ? 'fill-paper' : 'fill-lagoon'}">{count}</text
        >
      {/if}
      <text
        x={labelX}
        y={labelY + 4.5}
        text-anchor="middle"
        class="text-small {isChosen || count > 0 ? 'fill-ink font-bold' : 'fill-ink-soft'}"
      >
        {showTooth(tooth, notation)}
      </text>
    {/snippet}
    {#if onchoose}
      <g
        role="checkbox"
        aria-checked={isChosen}
        aria-label={says(tooth)}
        tabindex="0"
        class="cursor-pointer"
        data-tooth={tooth}
        onclick={() => onchoose(tooth)}
        onkeydown={(event) => {
          if (event.key !== ' ' && event.key !== 'Enter') return;
          event.preventDefault();
          onchoose(tooth);
        }}
      >
        <circle cx={(x + labelX) / 2} cy={(y + labelY) / 2} r="22" fill="transparent" />
        {@render drawing()}
      </g>
    {:else}
      <g role="img" aria-label={says(tooth)} data-tooth={tooth}>{@render drawing()}</g>
    {/if}
  {/each}
</svg>
