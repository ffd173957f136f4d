<script lang="ts">
  import { ArrowLeft } from '@lucide/svelte';

  /** What a template or a letter is called, and the way back to the others. */
  interface Props {
    name: string;
    /** What a screen reader says of the name, and of the way back. */
    label: string;
    back: { href: string; words: string };
    readonly: boolean;
    testid: string;
    oninput: () => void;
  }
  let { name = $bindable(), label, back, readonly, testid, oninput }: Props = $props();
</script>

<h1 class="sr-only">{name}</h1>
<div class="flex items-center gap-2">
  <a class="button quiet px-2.5" href={back.href} aria-label={back.words}
    ><ArrowLeft size={20} aria-hidden="true" /></a
  >
  <label class="min-w-0 flex-1"
    ><span class="sr-only">{label}</span>
    <input
      class="border-rule bg-paper min-h-11 w-full rounded-lg border px-3 font-bold"
      bind:value={name}
      {oninput}
      maxlength="120"
      {readonly}
      data-testid={testid}
    /></label
  >
</div>
