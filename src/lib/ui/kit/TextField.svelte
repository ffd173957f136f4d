<script lang="ts">
  interface Props {
    label: string;
    value: string;
    /** Room for several lines. */
    long?: boolean;
    most?: number;
    /** What could stand there. */
    example?: string;
    /** A number is wanted. */
    figure?: boolean;
    /** Whether one writes here at once when it comes up. */
    first?: boolean;
    /** Its label is heard and not seen. */
    bare?: boolean;
    testid?: string;
    /** What was written, once somebody is done with it. */
    onchange?: (value: string) => void;
  }
  let {
    label,
    value = $bindable(),
    long = false,
    most,
    example,
    figure = false,
    first = false,
    bare = false,
    testid,
    onchange
  }: Props = $props();
</script>

<label class="flex flex-col gap-1 font-semibold">
  <span class={bare ? 'sr-only' : ''}>{label}</span>
  {#if long}
    <textarea
      class="border-rule bg-paper min-h-20 rounded-lg border px-3 py-2 font-normal"
      bind:value
      maxlength={most}
      placeholder={example}
      onchange={(event) => onchange?.(event.currentTarget.value)}
      data-testid={testid}></textarea>
  {:else}
    <!-- svelte-ignore a11y_autofocus -->
    <input
      class="border-rule bg-paper min-h-11 min-w-0 rounded-lg border px-3 font-normal"
      bind:value
      inputmode={figure ? 'decimal' : 'text'}
      autofocus={first}
      maxlength={most}
      placeholder={example}
      onchange={(event) => onchange?.(event.currentTarget.value)}
      data-testid={testid}
    />
  {/if}
</label>
