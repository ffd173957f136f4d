<script lang="ts">
  import type { NormalRange } from '$core/measurement/guides/guide';
  import type { Value } from '$core/measurement/measured';

  interface Props {
    value: Value;
    range: NormalRange;
    standing: 'below' | 'within' | 'above';
  }
  let { value: of, range, standing }: Props = $props();
  const { value, plusMinus } = $derived(of);
  /** The rule reaches as far beyond the range as the range is wide, or to the value. */
  const rule = $derived.by(() => {
    const { low, high } = range;
    const wide = low !== null && high !== null ? high - low : Math.abs((low ?? high)!) * 0.5 || 1;
    const from = Math.min((low ?? high! - wide) - 0.6 * wide, value - plusMinus);
    const to = Math.max((high ?? low! + wide) + 0.6 * wide, value + plusMinus);
    const at = (each: number) => (100 * (each - from)) / (to - from);
    return {
      band: [low === null ? 0 : at(low), high === null ? 100 : at(high)],
      value: at(value),
      reach: [at(value - plusMinus), at(value + plusMinus)],
      labels: [low, high].flatMap((limit) => (limit === null ? [] : [{ limit, at: at(limit) }]))
    };
  });
</script>

<div class="mt-1.5" role="img" aria-label="{standing} the range of {range.low ?? ''} to {range.high ?? ''}">
  <div class="bg-tray relative h-3 rounded-full">
    <span
      class="bg-lagoon-wash absolute inset-y-0 rounded-full"
      style="left: {rule.band[0]}%; width: {rule.band[1] - rule.band[0]}%"
    ></span>
    <span
      class="absolute top-1/2 h-0.5 -translate-y-1/2 {standing === 'within' ? 'bg-ink' : 'bg-coral'}"
      style="left: {rule.reach[0]}%; width: {rule.reach[1] - rule.reach[0]}%"
    ></span>
    <span
      class="border-sheet absolute top-1/2 size-3.5 -translate-x-1/2 -translate-y-1/2 rounded-full border-2 {standing ===
      'within'
        ? 'bg-ink'
        : 'bg-coral'}"
      style="left: {rule.value}%"
    ></span>
  </div>
  <div class="text-small text-ink-soft relative h-5">
    {#each rule.labels as { limit, at } (limit)}<span class="absolute -translate-x-1/2" style="left: {at}%"
        >{limit}</span
      >{/each}
  </div>
</div>
