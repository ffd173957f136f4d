<script lang="ts">
  import type { FigurePart } from '$core/report/postureFigure';

  interface Props {
    parts: FigurePart[];
    seen: 'front' | 'side';
  }
  let { parts, seen }: Props = $props();
  const by = $derived(new Map(parts.map((part) => [part.key, part])));
  const head = $derived(by.get('head')!);
  const chest = $derived(by.get('chest')!);
  const pelvis = $derived(by.get('pelvis')!);
  const lean = ({ from, to }: FigurePart) => (Math.atan2(to.y - from.y, to.x - from.x) * 180) / Math.PI;
  const words = $derived(
    seen === 'front'
      ? 'Drawn from the readings, seen from the front: the left side is on the right.'
      : 'Drawn from the readings, seen from the right: forward is to the right.'
  );
</script>

<figure class="flex flex-col items-center">
  <svg viewBox="-330 -860 660 1240" class="h-[80mm]" role="img" aria-label={words}>
    <line x1="0" y1="-850" x2="0" y2="370" stroke="#5b6b65" stroke-width="3" stroke-dasharray="12 10" />
    <g fill="none" stroke="#14211d" stroke-width="5" stroke-linejoin="round" stroke-linecap="round">
      <g fill="#e9efe9">
        {#if seen === 'front'}
          <path
            d="M{chest.from.x} {chest.from.y}L{chest.to.x} {chest.to.y}L{pelvis.to.x} {pelvis.to.y}L{pelvis
              .from.x} {pelvis.from.y}Z"
          />
        {:else}
          <path
            d="M{chest.middle.x - 105} {chest.middle.y}Q{chest.middle.x - 20} {chest.middle.y - 40} {chest
              .middle.x + 105} {chest.middle.y}L{pelvis.middle.x + 95} {pelvis.middle.y}L{pelvis.middle.x -
              110} {pelvis.middle.y}Z"
          />
        {/if}
        <ellipse
          cx={head.middle.x}
          cy={head.middle.y}
          rx={seen === 'front' ? 78 : 95}
          ry="112"
          transform="rotate({seen === 'front' ? lean(head) : 0} {head.middle.x} {head.middle.y})"
        />
      </g>
      <path d="M{head.middle.x} {head.middle.y + 112}L{chest.middle.x} {chest.middle.y - 10}" />
      <path
        d="M{pelvis.middle.x - 60} {pelvis.middle.y + 10}V370M{pelvis.middle.x + 60} {pelvis.middle.y +
          10}V370"
        stroke-width="3"
      />
    </g>
    {#each parts as { key, from, to } (key)}
      <line x1={from.x} y1={from.y} x2={to.x} y2={to.y} stroke="#b5371f" stroke-width="6" />
      {#each [from, to] as { x, y }, i (i)}<circle cx={x} cy={y} r="10" fill="#b5371f" />{/each}
    {/each}
  </svg>
  <figcaption class="text-small text-center">
    {seen === 'front' ? 'From the front' : 'From the side'}
  </figcaption>
</figure>
