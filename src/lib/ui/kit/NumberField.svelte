<script lang="ts">
  /** A number that is typed, or stepped by the arrow keys; what is no number leaves the last one. */
  interface Props {
    label: string;
    value: number;
    least?: number;
    most: number;
    testid?: string;
    onchange: (value: number) => void;
  }
  let { label, value, least = 0, most, testid, onchange }: Props = $props();
</script>

<label class="text-small flex min-w-0 flex-col gap-1 font-semibold">
  {label}
  <input
    class="border-rule bg-paper min-h-11 min-w-0 rounded-lg border px-3 font-normal"
    type="number"
    min={least}
    max={most}
    step="1"
    value={String(Math.round(value * 10) / 10)}
    onchange={(event) => {
      const now = event.currentTarget.valueAsNumber;
      if (Number.isFinite(now)) onchange(Math.min(most, Math.max(least, now)));
    }}
    data-testid={testid}
  />
</label>
