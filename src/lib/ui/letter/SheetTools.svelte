<script lang="ts">
  import {
    AlignCenter,
    AlignLeft,
    AlignRight,
    Bold,
    Columns3,
    Italic,
    List,
    ListOrdered,
    Minus,
    Redo2,
    Rows3,
    Table2,
    Trash2,
    Underline,
    Undo2
  } from '@lucide/svelte';
  import type { Editor } from 'svelte-tiptap';
  import Select from '../kit/Select.svelte';
  import Tooltip from '../kit/Tooltip.svelte';

  /** What can be done to the words where the cursor is. `done` changes whenever something was done in the editor. */
  let { editor, done }: { editor: Editor; done: number } = $props();

  const styles = [
    { value: 'text', words: 'Text' },
    { value: '1', words: 'Large heading' },
    { value: '2', words: 'Heading' },
    { value: '3', words: 'Small heading' }
  ];
  const of = $derived.by(() => {
    void done;
    const level = ([1, 2, 3] as const).find((each) => editor.isActive('heading', { level: each }));
    return {
      style: level ? String(level) : 'text',
      bold: editor.isActive('bold'),
      italic: editor.isActive('italic'),
      underline: editor.isActive('underline'),
      bullets: editor.isActive('bulletList'),
      numbers: editor.isActive('orderedList'),
      center: editor.isActive({ textAlign: 'center' }),
      right: editor.isActive({ textAlign: 'right' }),
      table: editor.isActive('table'),
      undo: editor.can().undo(),
      redo: editor.can().redo()
    };
  });
  const does = () => editor.chain().focus();
  function style(value: string) {
    if (value === 'text') does().setParagraph().run();
    else
      does()
        .setHeading({ level: Number(value) as 1 | 2 | 3 })
        .run();
  }
  const tool = 'flex size-11 items-center justify-center rounded-lg border border-transparent';
  const look = (is: boolean) => `${tool} ${is ? 'border-coral! bg-coral-wash' : ''}`;
</script>

<div class="flex flex-wrap items-center gap-0.5" role="toolbar" aria-label="Words on the sheet">
  <div class="w-44">
    <Select label="Style" small value={of.style} options={styles} onchange={style} testid="text-style" />
  </div>
  <span class="w-2"></span>
  <Tooltip
    words="Bold"
    key="Ctrl B"
    button={look(of.bold)}
    pressed={of.bold}
    testid="bold"
    onclick={() => does().toggleBold().run()}><Bold size={19} aria-hidden="true" /></Tooltip
  >
  <Tooltip
    words="Slanted"
    key="Ctrl I"
    button={look(of.italic)}
    pressed={of.italic}
    onclick={() => does().toggleItalic().run()}><Italic size={19} aria-hidden="true" /></Tooltip
  >
  <Tooltip
    words="Underlined"
    key="Ctrl U"
    button={look(of.underline)}
    pressed={of.underline}
    onclick={() => does().toggleUnderline().run()}><Underline size={19} aria-hidden="true" /></Tooltip
  >
  <span class="w-2"></span>
  <Tooltip
    words="To the left"
    button={look(!of.center && !of.right)}
    pressed={!of.center && !of.right}
    onclick={() => does().setTextAlign('left').run()}><AlignLeft size={19} aria-hidden="true" /></Tooltip
  >
  <Tooltip
    words="In the middle"
    button={look(of.center)}
    pressed={of.center}
    onclick={() => does().setTextAlign('center').run()}><AlignCenter size={19} aria-hidden="true" /></Tooltip
  >
  <Tooltip
    words="To the right"
    button={look(of.right)}
    pressed={of.right}
    onclick={() => does().setTextAlign('right').run()}><AlignRight size={19} aria-hidden="true" /></Tooltip
  >
  <span class="w-2"></span>
  <Tooltip
    words="Points"
    button={look(of.bullets)}
    pressed={of.bullets}
    onclick={() => does().toggleBulletList().run()}><List size={19} aria-hidden="true" /></Tooltip
  >
  <Tooltip
    words="Numbered"
    button={look(of.numbers)}
    pressed={of.numbers}
    onclick={() => does().toggleOrderedList().run()}><ListOrdered size={19} aria-hidden="true" /></Tooltip
  >
  {#if of.table}
    <Tooltip words="One more row" button={tool} onclick={() => does().addRowAfter().run()}
      ><Rows3 size={19} aria-hidden="true" /></Tooltip
    >
    <Tooltip words="One more column" button={tool} onclick={() => does().addColumnAfter().run()}
      ><Columns3 size={19} aria-hidden="true" /></Tooltip
    >
    <Tooltip words="Take the table out" button={tool} onclick={() => does().deleteTable().run()}
      ><Trash2 size={19} aria-hidden="true" /></Tooltip
    >
  {:else}
    <Tooltip
      words="A table"
      button={tool}
      testid="add-table"
      onclick={() => does().insertTable({ rows: 3, cols: 2, withHeaderRow: true }).run()}
      ><Table2 size={19} aria-hidden="true" /></Tooltip
    >
  {/if}
  <Tooltip words="A line across" button={tool} onclick={() => does().setHorizontalRule().run()}
    ><Minus size={19} aria-hidden="true" /></Tooltip
  >
  <span class="flex-1"></span>
  <Tooltip
    words="Take back"
    key="Ctrl Z"
    button={tool}
    disabled={!of.undo}
    onclick={() => does().undo().run()}><Undo2 size={19} aria-hidden="true" /></Tooltip
  >
  <Tooltip
    words="Bring back"
    key="Ctrl Y"
    button={tool}
    disabled={!of.redo}
    onclick={() => does().redo().run()}><Redo2 size={19} aria-hidden="true" /></Tooltip
  >
</div>
