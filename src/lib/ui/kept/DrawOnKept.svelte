<script lang="ts">
  import { Lasso, MoveUpRight, PenLine, Type, Undo2 } from '@lucide/svelte';
  import type { PlacedPoint } from '$core/calibration/scale';
  import { type KeptOf, drawingToKeep } from '$core/picture/keptViews';
  import { type LayerName, layerKindOf } from '$core/picture/layers/all';
  import type { KeptDrawing } from '$core/picture/layers/kept/kept';
  import { mostTextLetters } from '$core/picture/layers/text/text';
  import { aspectOf, pictureName } from '$core/picture/pictureView';
  import { toScreen } from '$core/raster/view';
  import Dialog from '../kit/Dialog.svelte';
  import { previewUrl } from '../pictures/previewUrl';
  import Stage from '../stage/Stage.svelte';
  import { toolOfKind } from '../stage/tools/ofKind';
  import type { Deed } from '../stage/tools/tool';
  import { theVisit } from '../visit/visitStore.svelte';
  import KeptDrawn from './KeptDrawn.svelte';
  import { changeKept } from './keptActs';

  /** What is drawn here belongs to the kept view alone: the picture it was made of stays as it is. */
  let { of, open = $bindable() }: { of: KeptOf; open: boolean } = $props();
  const store = theVisit();
  const { picture, kept } = $derived(of);
  const aspect = $derived(aspectOf(picture));

  const tool = (kind: LayerName, icon: typeof Lasso) => ({
    kind,
    words: layerKindOf(kind).words,
    icon,
    tool: toolOfKind(kind)
  });
  const tools = [
    tool('arrow', MoveUpRight),
    tool('text', Type),
    tool('freehand', PenLine),
    tool('outline', Lasso)
  ];
  let held = $state.raw(tools[0]);
  /** Where words are to stand that have not been said yet. */
  let unsaid = $state.raw<PlacedPoint | null>(null);
  let words = $state('');

  function add(kind: LayerName, body: unknown, said = '') {
    put([...kept.drawings, drawingToKeep(kind, body, aspect, said)]);
  }
  const put = (drawings: KeptDrawing[]) => changeKept(store, [of], { drawings, drawn: true });

  function done(deed: Exclude<Deed, { kind: 'view' }>) {
    if (deed.kind !== 'placed') return;
    if (held.kind === 'text') [unsaid] = deed.points;
    else add(held.kind, layerKindOf(held.kind).placed!.made!(deed.points));
  }
  function say(event: SubmitEvent) {
    event.preventDefault();
    const said = words.trim();
    if (!unsaid || said === '') return;
    add('text', { at: unsaid, words: said }, said);
    unsaid = null;
    words = '';
  }
</script>

<Dialog
  bind:open
  title="Draw on {kept.name || pictureName(picture)}"
  message="The picture it was made of stays as it is."
  large
>
  <div class="flex flex-col gap-3">
    <div class="flex flex-wrap items-center gap-2">
      <div class="flex gap-1" role="group" aria-label="What to draw">
        {#each tools as each (each.kind)}
          {@const Icon = each.icon}
          <button
            class="button px-3 {held === each ? 'border-coral! bg-coral-wash!' : ''}"
            aria-pressed={held === each}
            onclick={() => {
              held = each;
              unsaid = null;
            }}
            data-testid="draw-{each.kind}"><Icon size={18} aria-hidden="true" />{each.words}</button
          >
        {/each}
      </div>
      <button
        class="button ml-auto px-3"
        disabled={kept.drawings.length === 0}
        onclick={() => put(kept.drawings.slice(0, -1))}
        data-testid="draw-last-off"><Undo2 size={18} aria-hidden="true" />Last off</button
      >
    </div>
    <div class="bg-stage relative h-[calc(100vh-16rem)] min-h-56 overflow-hidden rounded-lg">
      {#key held.kind}
        <Stage
          {picture}
          frame={kept.frame}
          look={kept.look}
          orientation={kept.orientation}
          part={kept.window}
          preview={previewUrl(picture)}
          label={kept.name || pictureName(picture)}
          tool={held.tool}
          placing
          {aspect}
          ondeed={done}
        >
          {#snippet laid(view, stage)}
            <KeptDrawn
              drawings={kept.drawings}
              seen={(point) => toScreen(point, view, stage)}
              size={stage.screen}
            />
          {/snippet}
        </Stage>
      {/key}
    </div>
    {#if unsaid}
      <form class="flex gap-2" onsubmit={say}>
        <!-- svelte-ignore a11y_autofocus -->
        <input
          class="border-rule bg-paper min-h-11 min-w-0 flex-1 rounded-lg border px-3"
          aria-label="Words on the picture"
          placeholder="Words on the picture"
          maxlength={mostTextLetters}
          autofocus
          bind:value={words}
          data-testid="draw-words"
        />
        <button type="button" class="button" onclick={() => (unsaid = null)}>Leave it</button>
        <button class="button main" disabled={words.trim() === ''} data-testid="draw-say">Put it there</button
        >
      </form>
    {/if}
  </div>
</Dialog>
