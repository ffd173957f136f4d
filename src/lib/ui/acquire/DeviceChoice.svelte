<script lang="ts">
  import { deviceKindWords } from '$core/devices/deviceKind';
  import type { DeviceView } from '$core/visit/visitView';
  import Switch from '../kit/Switch.svelte';
  import Select from '../kit/Select.svelte';

  interface Props {
    /** Those that can take the next slot. */
    fitting: readonly DeviceView[];
    chosen: DeviceView | null;
    keep: boolean;
    disabled: boolean;
    onchoose: (deviceId: string) => void;
  }
  let { fitting, chosen, keep = $bindable(), disabled, onchoose }: Props = $props();
</script>

{#if fitting.length > 1}
  {#if chosen}
    <Select
      small
      label="Taken with"
      testid="device-choice"
      value={chosen.deviceId}
      {disabled}
      options={fitting.map(({ deviceId, name, kind }) => ({
        value: deviceId,
        words: name,
        detail: deviceKindWords(kind)
      }))}
      onchange={onchoose}
    />
  {:else}
    <div class="flex flex-col gap-1.5" role="group" aria-label="With which device">
      <p class="text-brass font-semibold">With which device?</p>
      {#each fitting as { deviceId, name, kind } (deviceId)}
        <button
          class="button justify-start"
          {disabled}
          onclick={() => onchoose(deviceId)}
          data-testid="device-option"
          >{name}<span class="text-small text-ink-soft font-normal">{deviceKindWords(kind)}</span></button
        >
      {/each}
      <Switch bind:checked={keep} words="For the whole series" />
    </div>
  {/if}
{/if}
