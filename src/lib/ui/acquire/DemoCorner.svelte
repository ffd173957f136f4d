<script lang="ts">
  import { sensorFaults } from '$core/phantom/teeth/faultNames';
  import type { DeviceView } from '$core/visit/visitView';
  import Select from '../kit/Select.svelte';

  let { device, tell }: { device: DeviceView; tell: (body: object) => void } = $props();
  /** What the next exposure suffers from. */
  let fault = $state('good');
  const plates = $derived(device.kind === 'plate-scanner');
</script>

<div
  class="border-rule flex items-center gap-1.5 border-t border-dashed pt-2"
  role="group"
  aria-label="Demo corner"
>
  {#if plates}
    <button
      class="button flex-1 px-1"
      onclick={() => tell({ kind: 'demo-plates', count: 1, again: false })}
      data-testid="demo-plate">A plate</button
    >
    <button
      class="button flex-1 px-1"
      onclick={() => tell({ kind: 'demo-plates', count: 4, again: false })}
      data-testid="demo-plates">Four</button
    >
    <button
      class="button flex-1 px-1"
      onclick={() => tell({ kind: 'demo-plates', count: 1, again: true })}
      data-testid="demo-plate-twice">One twice</button
    >
  {:else}
    <div class="w-24 shrink-0">
      <Select
        label="How the exposure turns out"
        bind:value={fault}
        small
        options={['good', ...sensorFaults, 'same again'].map((each) => ({ value: each, words: each }))}
      />
    </div>
    <button
      class="button flex-1 px-1"
      onclick={() => tell({ kind: 'demo-expose', fault: fault === 'good' ? undefined : fault })}
      data-testid="demo-expose">Expose</button
    >
    <button class="button flex-1 px-1" onclick={() => tell({ kind: 'demo-series', everySeconds: 3 })}
      >Series</button
    >
    <button class="button flex-1 px-1" onclick={() => tell({ kind: 'demo-unplug', seconds: 15 })}
      >Unplug</button
    >
  {/if}
</div>
