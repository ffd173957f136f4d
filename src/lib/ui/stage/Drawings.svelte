<script lang="ts">
  import { type Stage, type View, toScreen } from '$core/raster/view';
  import type { Mark } from './marks';

  interface Props {
    marks: Mark[];
    view: View;
    stage: Stage;
    lit: string | null;
    movable: boolean;
    onlight?: (id: string | null) => void;
  }
  let { marks, view, stage, lit, movable, onlight }: Props = $props();
  const armPx = 7;
  const endNames = ['First', 'Second'];
</script>

<svg class="pointer-events-none absolute inset-0 h-full w-full" aria-label="Drawings" role="group">
  {#each marks as mark (mark.id)}
    {@const [a, b] = mark.ends.map((end) => toScreen(end, view, stage))}
    {@const bright = lit === mark.id}
    <g data-mark-group={mark.id}>
      <line
        x1={a.x}
        y1={a.y}
        x2={b.x}
        y2={b.y}
        stroke="#000"
        stroke-opacity="0.6"
        stroke-width={bright ? 6 : 4.5}
      />
      <line
        x1={a.x}
        y1={a.y}
        x2={b.x}
        y2={b.y}
        class="stroke-ice"
        stroke-width={bright ? 2.6 : 1.5}
        stroke-dasharray={mark.kind === 'scale-line' ? '7 5' : undefined}
      />
      {#each [a, b] as point, end (end)}
        <g transform="translate({point.x} {point.y})">
          <path
            d="M{-armPx} 0H-2M2 0H{armPx}M0 {-armPx}V-2M0 2V{armPx}"
            stroke="#000"
            stroke-opacity="0.6"
            stroke-width="4"
          />
          <path
            d="M{-armPx} 0H-2M2 0H{armPx}M0 {-armPx}V-2M0 2V{armPx}"
            class="stroke-ice"
            stroke-width="1.6"
          />
          {#if movable && mark.id !== 'draft'}
            <circle
              r="22"
              fill="transparent"
              class="focus-visible:stroke-coral pointer-events-auto cursor-move focus-visible:stroke-[3]"
              role="button"
              tabindex="0"
              aria-label="{endNames[end]} end of {mark.words}; arrow keys move it, with Shift ten times"
              data-mark={mark.id}
              data-end={end}
              onpointerenter={() => onlight?.(mark.id)}
              onpointerleave={() => onlight?.(null)}
              onfocus={() => onlight?.(mark.id)}
              onblur={() => onlight?.(null)}
            />
          {/if}
        </g>
      {/each}
      {#if mark.words}
        <text
          x={(a.x + b.x) / 2 + 12}
          y={(a.y + b.y) / 2 - 10}
          class="fill-ice text-lead font-bold"
          stroke="#000"
          stroke-opacity="0.75"
          stroke-width="4"
          paint-order="stroke"
          data-testid="mark-words">{mark.words}</text
        >
      {/if}
    </g>
  {/each}
</svg>
