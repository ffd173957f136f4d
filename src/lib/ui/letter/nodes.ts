import { Node, mergeAttributes } from '@tiptap/core';
import { SvelteNodeViewRenderer } from 'svelte-tiptap';
import type { Component } from 'svelte';
import type { NodeViewProps } from '@tiptap/core';
import { type PicturePlace, picturePlaceSchema } from '$core/letter/letterPlace';
import BlockView from './BlockView.svelte';
import FieldView from './FieldView.svelte';
import type { LetterDesk } from './letterDesk.svelte';
import PicturesView from './PicturesView.svelte';

interface OfDesk {
  desk: LetterDesk;
}
const view = (component: unknown, options = {}) =>
  SvelteNodeViewRenderer(component as Component<NodeViewProps>, options);

/** Something that the visit, the patient or the clinic puts there. */
export const FieldNode = Node.create<OfDesk>({
  name: 'field',
  group: 'inline',
  inline: true,
  atom: true,
  selectable: true,
  addAttributes: () => ({ name: { default: '' } }),
  parseHTML: () => [
    { tag: 'span[data-field]', getAttrs: (element) => ({ name: element.getAttribute('data-field') }) }
  ],
  renderHTML: ({ node }) => ['span', { 'data-field': String(node.attrs.name) }],
  addNodeView: () => view(FieldView)
});

function readPlaces(text: string | null): PicturePlace[] {
  try {
    return picturePlaceSchema.array().parse(JSON.parse(text ?? ''));
  } catch {
    return [];
  }
}

/** A row of places for pictures. Pasted again its places have names of their own. */
export const PicturesNode = Node.create<OfDesk>({
  name: 'pictures',
  group: 'block',
  atom: true,
  selectable: true,
  addAttributes: () => ({ places: { default: [] } }),
  parseHTML: () => [
    {
      tag: 'div[data-places]',
      getAttrs: (element) => {
        const places = readPlaces(element.getAttribute('data-places'));
        return places.length > 0
          ? { places: places.map((place) => ({ ...place, id: crypto.randomUUID() })) }
          : false;
      }
    }
  ],
  renderHTML: ({ node }) => ['div', { 'data-places': JSON.stringify(node.attrs.places) }],
  addNodeView: () =>
    // What is done to a place is not done to the text around it.
    view(PicturesView, {
      stopEvent: ({ event }: { event: Event }) =>
        event.target instanceof Element && event.target.closest('[data-place]') !== null
    })
});

const block = (name: 'readings' | 'bodyMap' | 'signature') =>
  Node.create<OfDesk>({
    name,
    group: 'block',
    atom: true,
    selectable: true,
    parseHTML: () => [{ tag: `div[data-block="${name}"]` }],
    renderHTML: ({ HTMLAttributes }) => ['div', mergeAttributes(HTMLAttributes, { 'data-block': name })],
    addNodeView: () => view(BlockView)
  });
export const blockNodes = [block('readings'), block('bodyMap'), block('signature')];
