<script lang="ts">
  import { untrack } from 'svelte';
  import StarterKit from '@tiptap/starter-kit';
  import { TableKit } from '@tiptap/extension-table';
  import TextAlign from '@tiptap/extension-text-align';
  import { Editor, EditorContent } from 'svelte-tiptap';
  import type { LetterBody } from '$core/letter/letterBody';
  import type { LetterDesk } from './letterDesk.svelte';
  import { FieldNode, PicturesNode, blockNodes } from './nodes';
  import { page } from '$app/state';
  import SheetTools from './SheetTools.svelte';
  import type { PicturePlace } from '$core/letter/letterPlace';

  /** The sheet of a letter, edited in place. Loaded once a page is there: its editor knows no server. */
  interface Props {
    desk: LetterDesk;
    label: string;
    onchange: (body: LetterBody) => void;
    /** Has the editor once it is there, to put things in. */
    onready: (editor: Editor) => void;
  }
  let { desk, label, onchange, onready }: Props = $props();

  const head = $derived(page.data.letterhead as { address: string; hasLogo: boolean });
  const editor = untrack(() => {
    const { mayWrite } = desk;
    return new Editor({
      editable: mayWrite,
      injectCSS: false,
      extensions: [
        StarterKit.configure({
          blockquote: false,
          code: false,
          codeBlock: false,
          strike: false,
          link: false,
          heading: { levels: [1, 2, 3] },
          dropcursor: { class: 'letter-drop' }
        }),
        TableKit.configure({ table: { resizable: false } }),
        TextAlign.configure({ types: ['heading', 'paragraph'] }),
        ...[FieldNode, PicturesNode, ...blockNodes].map((node) => node.configure({ desk }))
      ],
      content: desk.body,
      editorProps: {
        attributes: {
          class: 'letter-text',
          'aria-label': label,
          role: 'textbox',
          'aria-multiline': 'true'
        }
      },
      onFocus: () => (inWords = true),
      onUpdate: ({ editor: of }) => {
        desk.body = of.getJSON() as LetterBody;
        onchange(desk.body);
      }
    });
  });
  /** Counts what is done in it, so that tools tell what holds where the cursor is. */
  let done = $state(0);
  $effect(() => {
    const count = () => (done += 1);
    editor.on('transaction', count);
    untrack(() => onready(editor));
    return () => {
      editor.off('transaction', count);
      editor.destroy();
    };
  });

  const rows = () => {
    const found: { at: number; places: PicturePlace[] }[] = [];
    editor.state.doc.descendants((node, at) => {
      if (node.type.name === 'pictures') found.push({ at, places: node.attrs.places as PicturePlace[] });
    });
    return found;
  };
  const rowWith = (id: string) => rows().find(({ places }) => places.some((each) => each.id === id));
  /** Whether somebody was in the words since the sheet came, and since they were at a place. */
  let inWords = false;
  $effect(() => {
    if (desk.selected) inWords = false;
  });
  function whereToPut(): number | null {
    if (inWords) return null;
    const row = desk.selected ? rowWith(desk.selected) : undefined;
    return row ? row.at + 1 : editor.state.doc.content.size;
  }
  untrack(() => {
    desk.put = (part) => {
      const at = whereToPut();
      const isInline = part.type === 'field';
      const content = at !== null && isInline ? { type: 'paragraph', content: [part] } : part;
      if (at === null) editor.chain().focus().insertContent(content).run();
      else editor.chain().insertContentAt(at, content).run();
    };
    desk.rowOf = (id) => rowWith(id)?.places ?? [];
    desk.changeRow = (id, places) => {
      const row = rowWith(id);
      if (!row) return;
      const { tr } = editor.state;
      if (places.length === 0) tr.delete(row.at, row.at + 1);
      else tr.setNodeMarkup(row.at, undefined, { places });
      editor.view.dispatch(tr);
    };
    desk.changePlace = (id, change) => {
      const places = desk.rowOf(id);
      desk.changeRow(
        id,
        change
          ? places.map((each) => (each.id === id ? { ...each, ...change } : each))
          : places.filter((each) => each.id !== id)
      );
      if (!change) desk.selected = null;
    };
  });
</script>

{#if desk.mayWrite}<SheetTools {editor} {done} />{/if}
<!-- svelte-ignore a11y_no_noninteractive_tabindex -->
<div
  class="bg-tray min-h-0 flex-1 overflow-y-auto rounded-xl p-4"
  tabindex="0"
  role="region"
  aria-label="Sheet"
>
  <div class="letter-sheet bg-sheet text-ink mx-auto shadow-sm">
    <div
      class="letter-head flex items-start justify-end gap-[calc(var(--mm)*3)] text-right"
      aria-hidden="true"
    >
      <div>
        <strong>{page.data.who.clinicName}</strong>
        {#if head.address}<p class="text-ink-soft leading-tight whitespace-pre-line">{head.address}</p>{/if}
      </div>
      {#if head.hasLogo}
        <img
          src="/api/letterhead/logo"
          alt=""
          class="h-[calc(var(--mm)*13)] max-w-[calc(var(--mm)*40)] object-contain"
        />
      {/if}
    </div>
    <EditorContent {editor} />
  </div>
</div>

<style>
  .letter-sheet {
    container-type: inline-size;
    max-width: 52rem;
    min-height: 60rem;
  }
  /* Of an A4 sheet, by its width. */
  .letter-head,
  .letter-sheet :global(.letter-text) {
    --mm: calc(100cqw / 210);
  }
  .letter-head {
    padding: calc(var(--mm) * 16) calc(var(--mm) * 18) calc(var(--mm) * 2);
    margin-bottom: calc(var(--mm) * 2);
    font-size: calc(var(--mm) * 3.53);
    position: relative;
  }
  .letter-head::after {
    content: '';
    position: absolute;
    inset: auto calc(var(--mm) * 18) 0;
    border-bottom: 1px solid var(--rule);
  }
  .letter-sheet :global(.letter-text) {
    padding: calc(var(--mm) * 2) calc(var(--mm) * 18) calc(var(--mm) * 18);
    font-size: calc(var(--mm) * 3.53);
    line-height: 1.3;
    min-height: 60rem;
    white-space: pre-wrap;
    overflow-wrap: break-word;
  }
  .letter-sheet :global(.letter-text:focus) {
    outline: none;
  }
  .letter-sheet :global(.letter-text p) {
    margin-bottom: calc(var(--mm) * 2.1);
    min-height: 1.3em;
  }
  .letter-sheet :global(.letter-text h1),
  .letter-sheet :global(.letter-text h2),
  .letter-sheet :global(.letter-text h3) {
    font-weight: 700;
    margin: calc(var(--mm) * 2) 0 calc(var(--mm) * 1.4);
  }
  .letter-sheet :global(.letter-text h1) {
    font-size: calc(var(--mm) * 5.3);
  }
  .letter-sheet :global(.letter-text h2) {
    font-size: calc(var(--mm) * 4.4);
  }
  .letter-sheet :global(.letter-text h3) {
    font-size: calc(var(--mm) * 3.9);
  }
  .letter-sheet :global(.letter-text ul) {
    list-style: disc;
    padding-left: calc(var(--mm) * 6);
  }
  .letter-sheet :global(.letter-text ol) {
    list-style: decimal;
    padding-left: calc(var(--mm) * 6);
  }
  .letter-sheet :global(.letter-text hr) {
    border-color: var(--rule);
    margin: calc(var(--mm) * 2) 0;
  }
  .letter-sheet :global(.letter-text hr.ProseMirror-selectednode) {
    border-color: var(--coral);
  }
  .letter-sheet :global(.letter-text table) {
    width: 100%;
    table-layout: fixed;
    border-collapse: collapse;
    margin: calc(var(--mm) * 1) 0 calc(var(--mm) * 3);
  }
  .letter-sheet :global(.letter-text td),
  .letter-sheet :global(.letter-text th) {
    border: 1px solid var(--rule);
    padding: calc(var(--mm) * 1);
    text-align: left;
    vertical-align: top;
  }
  .letter-sheet :global(.letter-text .selectedCell) {
    background: var(--coral-wash);
  }
  .letter-sheet :global(img.ProseMirror-separator) {
    display: inline;
    width: 0;
    height: 0;
  }
  .letter-sheet :global(.ProseMirror-gapcursor) {
    border-top: 2px solid var(--coral);
    margin: calc(var(--mm) * 1) 0;
    max-width: calc(var(--mm) * 10);
  }
  .letter-sheet :global(.ProseMirror-hideselection *::selection) {
    background: transparent;
  }
</style>
