<script lang="ts">
  import type { NodeViewProps } from '@tiptap/core';
  import { NodeViewWrapper } from 'svelte-tiptap';
  import type { LetterDesk } from './letterDesk.svelte';

  let { node, extension, selected }: NodeViewProps = $props();
  const desk = $derived((extension.options as { desk: LetterDesk }).desk);
  const name = $derived(String(node.attrs.name));
  const said = $derived(desk.fieldSays(name));
  const looks = {
    value: 'bg-lagoon-wash/60',
    name: 'bg-tray',
    'kept back': 'bg-tray text-ink-soft',
    empty: 'bg-brass-wash text-brass outline-brass outline-1 outline-dashed',
    unknown: 'bg-brass-wash text-brass outline-brass outline-1 outline-dashed'
  };
  const after = {
    value: '',
    name: '',
    'kept back': ': kept back',
    empty: ': nothing to put in',
    unknown: ': no such field any more'
  };
</script>

<NodeViewWrapper
  as="span"
  class="rounded-sm px-0.5 whitespace-pre-line! {looks[said.state]} {selected
    ? 'outline-coral outline-2 outline-solid!'
    : ''}"
  data-field={name}
  data-state={said.state}>{said.words}{after[said.state]}</NodeViewWrapper
>
