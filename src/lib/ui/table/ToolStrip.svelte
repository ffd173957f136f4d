<script lang="ts">
  import {
    BookmarkPlus,
    ChevronUp,
    Contrast,
    Crop,
    Expand,
    FlipHorizontal2,
    Pencil,
    Redo2,
    RotateCcw,
    RotateCw,
    Scan,
    Shapes,
    Undo2,
    UnfoldHorizontal
  } from '@lucide/svelte';
  import type { Component } from 'svelte';
  import { isInverted } from '$core/raster/look/look';
  import Choice from '../kit/Choice.svelte';
  import Menu from '../kit/Menu.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { toolFamilies } from './station';
  import type { LightTable } from './table.svelte';

  interface Props {
    table: LightTable;
    onfit: () => void;
    ononetoone: () => void;
    /** Keeps what the stage shows. */
    onkeep: () => void;
  }
  let { table, onfit, ononetoone, onkeep }: Props = $props();
  const { edits } = $derived(table);
  const picture = $derived(table.picture!);
  const plain = $derived(table.tools.filter(({ family }) => !family));
  const familyIcons = { Measure: Shapes, Draw: Pencil, Frame: Crop };
  const families = $derived(
    toolFamilies
      .map((family) => ({
        family,
        icon: familyIcons[family],
        tools: table.tools.filter((tool) => tool.family === family)
      }))
      .filter(({ tools }) => tools.length > 0)
  );

  /** Width (CSS px) below which buttons show no words, and those of one sort lie in a menu. */
  const narrowest = 672;
  let width = $state(Infinity);
  function widen(): void {
    table.room = table.room === 'shared' ? 'wide' : 'shared';
  }
  const views = $derived([
    { words: 'Fit', icon: Expand, key: 'F', testid: 'fit', onclick: onfit },
    { words: '1 : 1', icon: Scan, key: '1', testid: 'one-to-one', onclick: ononetoone },
    {
      words: 'Wide',
      icon: UnfoldHorizontal,
      key: 'Z',
      testid: 'wide',
      pressed: table.room !== 'shared',
      onclick: widen
    }
  ]);
</script>

{#snippet act(
  words: string,
  Icon: Component<{ size?: number }>,
  more: { key?: string; testid?: string; disabled?: boolean; pressed?: boolean },
  onclick: () => void
)}
  <Tooltip {words} {...more} button="tool {more.pressed ? 'border-coral! bg-coral-wash!' : ''}" {onclick}>
    <Icon size={19} /><span class="hidden whitespace-nowrap @2xl:block" aria-hidden="true">{words}</span>
  </Tooltip>
{/snippet}

<div class="@container shrink-0" bind:clientWidth={width}>
  <!-- What does not fit beside the rest goes below it: nothing is out of reach. -->
  <div class="flex items-stretch gap-1 @max-2xl:flex-wrap" role="toolbar" aria-label="Tools">
    <Choice
      label="Tool"
      stacked
      testid="tool"
      bind:value={() => table.tool.id, (id) => table.takeUp(id)}
      options={plain.map(({ id, words, icon, key }) => ({ value: id, words, icon, key }))}
    />
    {#each families as { family, icon: Own, tools } (family)}
      {@const held = tools.find(({ id }) => id === table.tool.id)}
      <Menu
        label="{family}{held ? `: ${held.words} is in hand` : ''}"
        button="tool {held ? 'border-coral! bg-coral-wash!' : ''}"
        testid="tools-{family.toLowerCase()}"
        align="start"
        items={tools.map(({ id, words, icon, key }) => ({
          words,
          icon,
          key,
          testid: `tool-${id.replace(' ', '-')}`,
          act: () => table.takeUp(id)
        }))}
      >
        {#snippet trigger()}
          {@const Icon = held?.icon ?? Own}
          <Icon size={19} /><span class="flex items-center gap-0.5 whitespace-nowrap"
            ><span class="hidden @2xl:inline">{family}</span><ChevronUp size={13} aria-hidden="true" /></span
          >
        {/snippet}
      </Menu>
    {/each}
    {#if table.may.changePictures}
      <span class="bg-rule mx-0.5 w-px" aria-hidden="true"></span>
      {#if table.station.turns}
        {@render act('Left', RotateCcw, { testid: 'turn-left' }, () => edits.turn(-1))}
        {@render act('Right', RotateCw, { testid: 'turn-right' }, () => edits.turn(1))}
        {@render act('Mirror', FlipHorizontal2, { testid: 'mirror' }, () => edits.mirror())}
      {/if}
      {@render act('Invert', Contrast, { key: 'I', testid: 'invert', pressed: isInverted(edits.look) }, () =>
        edits.invert()
      )}
    {/if}
    <span class="bg-rule mx-0.5 w-px" aria-hidden="true"></span>
    {#if width < narrowest}
      <Menu
        label="How much is seen"
        button="tool"
        testid="views"
        align="start"
        items={views.map((view) => ({ ...view, act: view.onclick }))}
      >
        {#snippet trigger()}<Expand size={19} /><ChevronUp size={13} aria-hidden="true" />{/snippet}
      </Menu>
    {:else}
      {#each views as { words, icon, onclick, ...more } (words)}
        {@render act(words, icon, more, onclick)}
      {/each}
    {/if}
    {#if table.may.changePictures}
      {@render act('Keep', BookmarkPlus, { key: 'Q', testid: 'keep-view' }, onkeep)}
      <span class="ml-auto flex gap-1 pl-1">
        {@render act(
          'Take back',
          Undo2,
          { key: 'Ctrl Z', testid: 'take-back', disabled: !picture.canTakeBack },
          () => edits.takeBack()
        )}
        {@render act(
          'Bring back',
          Redo2,
          { key: 'Ctrl Shift Z', testid: 'bring-back', disabled: !picture.canBringBack },
          () => edits.bringBack()
        )}
      </span>
    {/if}
  </div>
</div>
