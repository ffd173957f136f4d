<script lang="ts">
  import { Plus, Trash2 } from '@lucide/svelte';
  import {
    type HeadField,
    type PlacedField,
    type PrintFont,
    type PrintLayout,
    headFieldWords,
    headFields,
    plainField,
    printFonts,
    usualHead
  } from '$core/print/printLayout';
  import { sheetOf } from '$core/print/paper';
  import Choice from '../kit/Choice.svelte';
  import Menu from '../kit/Menu.svelte';
  import NumberField from '../kit/NumberField.svelte';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import TextField from '../kit/TextField.svelte';
  import Tooltip from '../kit/Tooltip.svelte';

  /** What stands on a sheet beside its pictures: where, in which letters and colour. The sheet at the right shows it. */
  interface Props {
    layout: PrintLayout;
    /** Whether the clinic has a logo. */
    hasLogo: boolean;
    /** Whether it is kept already. */
    isKept: boolean;
    onchange: (layout: PrintLayout) => void;
    onkeep: () => void;
    ondrop: () => void;
    oncancel: () => void;
  }
  type Place = Pick<PlacedField, 'leftMm' | 'topMm' | 'widthMm'>;
  let { layout, hasLogo, isKept, onchange, onkeep, ondrop, oncancel }: Props = $props();
  let at = $state(0);
  const field = $derived(layout.fields.at(at) ?? null);
  const sheet = $derived(sheetOf(layout.paper, layout.lying));

  const change = (part: Partial<PrintLayout>) => onchange({ ...layout, ...part });
  const set = (part: Partial<PlacedField>) =>
    change({ fields: layout.fields.map((each, i) => (i === at ? { ...each, ...part } : each)) });
  function add(what: HeadField) {
    // What is added is what is worked on.
    const last = layout.fields.length;
    change({ fields: [...layout.fields, plainField(what, { topMm: 4 })] });
    at = last;
  }
  function remove() {
    change({ fields: layout.fields.filter((_, i) => i !== at) });
    at = Math.max(0, at - 1);
  }
  const nameOf = ({ what, words }: PlacedField) =>
    what === 'words' && words ? `“${words}”` : headFieldWords[what];
  const colours = [
    { value: '#14211d', words: 'Dark' },
    { value: '#3a4743', words: 'Grey' },
    { value: '#0f6b66', words: 'Teal' },
    { value: '#8a4b12', words: 'Brass' },
    { value: '#b3311f', words: 'Red' },
    { value: '#1f4e8c', words: 'Blue' }
  ];
  const own = 'own';
</script>

{#snippet place(name: string, { leftMm, topMm, widthMm }: Place, onplace: (part: Partial<Place>) => void)}
  <div class="grid grid-cols-3 gap-2">
    <NumberField
      label="From left, mm"
      value={leftMm}
      most={sheet.width}
      testid="{name}-left"
      onchange={(mm) => onplace({ leftMm: mm })}
    />
    <NumberField
      label="From top, mm"
      value={topMm}
      most={sheet.height}
      testid="{name}-top"
      onchange={(mm) => onplace({ topMm: mm })}
    />
    <NumberField
      label="Width, mm"
      value={widthMm}
      least={10}
      most={sheet.width}
      testid="{name}-width"
      onchange={(mm) => onplace({ widthMm: mm })}
    />
  </div>
{/snippet}
<section class="panel flex min-h-0 flex-col gap-3 p-5" aria-label="Layout" data-testid="layout-editor">
  <h1 class="text-title font-bold">A layout of our own</h1>
  <TextField
    label="Name"
    bind:value={() => layout.name, (name) => change({ name })}
    most={60}
    first
    testid="layout-name"
  />
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div
    class="-mx-1 flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto px-1"
    tabindex="0"
    role="region"
    aria-label="What stands on it"
  >
    <div class="flex items-end gap-2">
      <div class="min-w-0 flex-1">
        <span class="text-small mb-1 block font-semibold" aria-hidden="true">What stands on it</span>
        <Select
          label="What stands on it"
          value={String(at)}
          options={layout.fields.map((each, i) => ({ value: String(i), words: nameOf(each) }))}
          empty="Nothing yet"
          onchange={(which) => (at = Number(which))}
          testid="layout-field"
        />
      </div>
      <Menu
        label="Add to it"
        button="button px-3"
        testid="layout-add"
        items={headFields.map((what) => ({
          words: headFieldWords[what],
          act: () => add(what),
          testid: `layout-add-${what}`
        }))}
      >
        {#snippet trigger()}<Plus size={18} aria-hidden="true" />{/snippet}
      </Menu>
      <Tooltip
        words="Take it off the sheet"
        button="flex size-11 items-center justify-center rounded-lg"
        testid="layout-off"
        disabled={!field}
        onclick={remove}><Trash2 size={18} aria-hidden="true" /></Tooltip
      >
    </div>
    {#if field}
      {#if field.what === 'words'}
        <TextField
          label="The words"
          bind:value={() => field.words, (words) => set({ words })}
          most={300}
          testid="layout-words"
        />
      {/if}
      {@render place('layout', field, set)}
      <div class="flex items-end gap-2">
        <div class="flex-1">
          <span class="text-small mb-1 block font-semibold" aria-hidden="true">Letters</span>
          <Select
            label="Letters"
            value={field.font}
            options={(Object.keys(printFonts) as PrintFont[]).map((value) => ({
              value,
              words: printFonts[value]
            }))}
            onchange={(font) => set({ font })}
            testid="layout-font"
          />
        </div>
        <div class="w-28">
          <NumberField
            label="Points"
            value={field.pt}
            least={5}
            most={40}
            testid="layout-pt"
            onchange={(pt) => set({ pt })}
          />
        </div>
      </div>
      <div class="flex flex-wrap items-center justify-between gap-2">
        <Choice
          label="Where in its width"
          small
          value={field.align}
          options={[
            { value: 'left', words: 'Left' },
            { value: 'center', words: 'Middle' },
            { value: 'right', words: 'Right' }
          ]}
          onchange={(align) => set({ align })}
          testid="layout-align"
        />
        <Switch checked={field.bold} words="Bold" onchange={(bold) => set({ bold })} testid="layout-bold" />
      </div>
      <span class="text-small -mb-2 block font-semibold" aria-hidden="true">Colour</span>
      <Select
        label="Colour"
        value={colours.some(({ value }) => value === field.colour) ? field.colour : own}
        options={[
          ...colours,
          ...(colours.some(({ value }) => value === field.colour)
            ? []
            : [{ value: own, words: field.colour }])
        ]}
        onchange={(colour) => colour !== own && set({ colour })}
        testid="layout-colour"
      />
    {/if}
    {#if hasLogo}
      <div class="border-rule flex flex-col gap-2 border-t pt-3">
        <Switch
          checked={layout.logo !== null}
          words="The logo"
          testid="layout-logo"
          onchange={(on) => change({ logo: on ? usualHead(layout.paper, layout.lying).logo : null })}
        />
        {#if layout.logo}
          {@const logo = layout.logo}
          {@render place('logo', logo, (part) => change({ logo: { ...logo, ...part } }))}
        {/if}
      </div>
    {/if}
  </div>
  <div class="border-rule flex justify-between gap-2 border-t pt-3">
    {#if isKept}
      <button class="button quiet" onclick={ondrop} data-testid="layout-drop">Drop it</button>
    {:else}<span></span>{/if}
    <span class="flex gap-2">
      <button class="button" onclick={oncancel} data-testid="layout-cancel">Leave it</button>
      <button
        class="button main"
        disabled={layout.name.trim() === ''}
        onclick={onkeep}
        data-testid="layout-keep">Keep the layout</button
      >
    </span>
  </div>
</section>
