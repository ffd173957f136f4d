<script lang="ts">
  import type { NodeViewProps } from '@tiptap/core';
  import { page } from '$app/state';
  import { NodeViewWrapper } from 'svelte-tiptap';
  import type { LetterDesk } from './letterDesk.svelte';

  let { node, extension, selected }: NodeViewProps = $props();
  const desk = $derived((extension.options as { desk: LetterDesk }).desk);
  const kind = $derived(node.type.name as 'readings' | 'bodyMap' | 'signature');
</script>

<NodeViewWrapper
  class="my-[calc(var(--mm)*2)] rounded-sm {selected ? 'outline-coral outline-2' : ''}"
  data-block={kind}
>
  {#if kind === 'signature'}
    <div class="border-ink-soft mt-[calc(var(--mm)*14)] w-[calc(var(--mm)*60)] border-t pt-1">
      <strong>{page.data.who.name}</strong><br /><span class="text-ink-soft">{page.data.who.role}</span>
    </div>
  {:else if kind === 'bodyMap'}
    <div class="bg-tray text-ink-soft rounded-sm px-2 py-[calc(var(--mm)*10)] text-center">
      The body map, with where pictures are on the day it is made
    </div>
  {:else if desk.filling && desk.filling.readings.length > 0}
    <dl class="grid grid-cols-[1fr_auto] gap-x-4">
      {#each desk.filling.readings as { name, value }, i (i)}
        <dt class="border-rule border-b py-0.5">{name}</dt>
        <dd class="border-rule border-b py-0.5 font-bold">{value}</dd>
      {/each}
    </dl>
  {:else}
    <div
      class="rounded-sm px-2 py-[calc(var(--mm)*4)] text-center {desk.filling
        ? 'bg-brass-wash text-brass'
        : 'bg-tray text-ink-soft'}"
    >
      The readings of the visit{desk.filling ? ': nothing was measured' : ', a line each'}
    </div>
  {/if}
</NodeViewWrapper>
