<script lang="ts">
  /** A password, of now or a new one, as the browser's own keeper of passwords knows it. */
  interface Props {
    label: string;
    value: string;
    kind: 'current-password' | 'new-password';
    name?: string;
    error?: string;
    testid?: string;
  }
  let { label, value = $bindable(), kind, name, error, testid }: Props = $props();
</script>

<label class="block">
  <span class="font-semibold">{label}</span>
  <input
    {name}
    type="password"
    bind:value
    autocomplete={kind}
    class="border-rule bg-paper text-lead mt-1 min-h-12 w-full rounded-lg border px-3"
    aria-invalid={error ? 'true' : undefined}
    data-testid={testid}
  />
  {#if error}<span class="text-small text-brass">{error}</span>{/if}
</label>
