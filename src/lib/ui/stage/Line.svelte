<script lang="ts">
  interface Props {
    d: string;
    bright?: boolean;
    dashed?: boolean;
  }
  let { d, bright = false, dashed = false }: Props = $props();
</script>

<!-- Thin, with a dark halo, so that it reads on white and on black. -->
<path {d} fill="none" stroke="#000" stroke-opacity="0.6" stroke-width={bright ? 6 : 4.5} />
<path
  {d}
  fill="none"
  class="stroke-ice"
  stroke-width={bright ? 2.6 : 1.5}
  stroke-dasharray={dashed ? '7 5' : undefined}
/>
