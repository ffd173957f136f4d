<script lang="ts">
  import { onMount } from 'svelte';
  import { goto } from '$app/navigation';
  import { Move, Spline } from '@lucide/svelte';
  import type { BodyMap } from '$core/anatomy/placeKind';
  import type { Place } from '$core/anatomy/place';
  import { fullOrder } from '$core/tray/pattern';
  import BodyMapView from '$ui/body/BodyMap.svelte';
  import Choice from '$ui/kit/Choice.svelte';
  import { ask, attempt } from '$ui/net/send';
  import { PatternDraft } from '$ui/patterns/draft.svelte';
  import PatternSurface from '$ui/patterns/PatternSurface.svelte';
  import SlotCard from '$ui/patterns/SlotCard.svelte';
  import { describeKeys } from '$ui/shell/keys.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  const { entry, isNew, ofTray, trade } = data;
  const notation = $derived(data.who!.notation);
  const may = $derived(data.who!.may);
  const order = entry ? fullOrder(entry.pattern, (entry.own ?? entry.usual).order) : [];
  /** What comes with the product can be looked at, copied, and gone through along one's own route. */
  const fixed = !isNew && entry!.shipped;
  const keyed = `pattern draft ${isNew ? `new ${entry?.pattern.ref.id ?? (ofTray ? ofTray.slots.map(({ id }) => id).join() : trade)}` : `${entry!.pattern.ref.id} ${entry!.pattern.ref.version}`}`;
  const draft = new PatternDraft(keyed, {
    name: entry ? `${entry.pattern.name}${isNew ? ', our way' : ''}` : '',
    trade,
    slots: entry?.pattern.slots ?? ofTray?.slots ?? [],
    order: ofTray ? ofTray.slots.map(({ id }) => id) : order
  });
  let mode = $state<'arrange' | 'thread'>(fixed ? 'thread' : 'arrange');
  let takenUp = $state(false);
  onMount(() => {
    const left = PatternDraft.leftover(keyed);
    if (!left) return;
    draft.takeUp(left);
    takenUp = true;
  });
  $effect(() => draft.keep());
  $effect(() =>
    describeKeys([
      { key: '← → ↑ ↓', does: 'Move the well that has the focus' },
      { key: 'Enter', does: 'Choose a well; while threading, put the thread through it' },
      { key: 'Delete', does: 'Take the slot away' }
    ])
  );

  const maps: Record<typeof trade, BodyMap[]> = {
    teeth: ['teeth'],
    bones: ['bones'],
    animals: ['dog teeth', 'cat teeth', 'horse teeth', 'animal bones'],
    eyes: ['eyes']
  };
  const beside: Place[] =
    trade === 'teeth'
      ? [
          { kind: 'wide view', view: 'panoramic' },
          ...(['bite from the front', 'upper arch', 'lower arch', 'face from the front'] as const).map(
            (view): Place => ({ kind: 'photograph', view })
          )
        ]
      : [{ kind: 'photograph', view: 'wound' }];

  async function keep() {
    const { name, slots, order: route } = draft;
    const of = isNew ? null : entry!.pattern.ref.id;
    const kept = await attempt(() => ask('/api/patterns', { of, name, trade, slots, order: route }));
    if (!kept) return;
    draft.forget();
    await goto('/patterns');
  }
  async function keepRoute(own: boolean) {
    const asked = { pattern: entry!.pattern.ref, order: own ? draft.order : null };
    if (!(await attempt(() => ask('/api/routes', asked)))) return;
    draft.forget();
    await goto('/patterns');
  }
  const whole = $derived(draft.slots.length > 0 && draft.unthreaded.length === 0);
</script>

<svelte:head><title>{draft.name || 'A new pattern'} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
    <div class="flex flex-wrap items-end gap-3">
      <h1 class="sr-only">{isNew ? 'A new pattern' : draft.name}</h1>
      <label class="w-80"
        ><span class="text-small font-semibold">Name of the pattern</span>
        <input
          bind:value={draft.name}
          disabled={fixed || !may.layPatterns}
          maxlength="60"
          placeholder="What it is asked for with"
          class="border-rule bg-paper text-lead mt-0.5 min-h-11 w-full rounded-lg border px-3 font-semibold"
          data-testid="pattern-name"
        /></label
      >
      <Choice
        label="What the hand does"
        bind:value={mode}
        disabled={fixed}
        testid="hand"
        options={[
          { value: 'arrange', words: 'Move wells', icon: Move },
          { value: 'thread', words: 'Thread the route', icon: Spline }
        ]}
      />
      {#if mode === 'thread'}
        <button class="button" onclick={() => draft.pullOut()} data-testid="pull-out"
          >Pull the thread out</button
        >
      {/if}
      <span class="flex-1"></span>
      {#if takenUp}<span class="text-small text-ink-soft self-center"
          >Goes on where you left it on this machine.</span
        >{/if}
      {#if fixed}
        {#if may.acquire}
          {#if entry!.own}<button class="button" onclick={() => keepRoute(false)}
              >Back to the usual route</button
            >{/if}
          <button
            class="button main"
            disabled={!whole}
            onclick={() => keepRoute(true)}
            data-testid="keep-route">Keep as my route</button
          >
        {/if}
      {:else if may.layPatterns}
        <button
          class="button main"
          disabled={draft.slots.length === 0 || draft.name.trim() === ''}
          onclick={keep}
          data-testid="keep-pattern">Keep the pattern</button
        >
      {/if}
    </div>
    {#if draft.unthreaded.length > 0 && draft.order.length + draft.unthreaded.length > 0}
      <p class="text-brass font-semibold" role="status">
        {draft.order.length === 0
          ? 'The thread is out. Pull it through the wells in the order they are taken.'
          : `The route misses ${draft.unthreaded.map(({ name }) => name).join(', ')}.`}
      </p>
    {/if}
    <div class="flex min-h-0 flex-1 gap-3">
      <section class="min-w-0 flex-1" aria-label="Tray">
        <PatternSurface {draft} {notation} {mode} disabled={!may.layPatterns && !may.acquire} />
      </section>
      <aside class="panel flex w-96 shrink-0 flex-col gap-3 overflow-y-auto px-4 py-3" aria-label="Anatomy">
        {#if !fixed && may.layPatterns}
          <div class="flex items-center justify-between">
            <h2 class="heading">{draft.chosen ? 'In the chosen slot' : 'Touch to add a slot'}</h2>
            {#if draft.chosen}<button
                class="button text-small px-2"
                onclick={() => (draft.chosenId = null)}
                data-testid="another-slot">Add another slot</button
              >{/if}
          </div>
          <div class="h-[min(25rem,48vh)] shrink-0">
            <BodyMapView
              maps={maps[trade]}
              {notation}
              child
              chosen={draft.chosen?.places ?? []}
              label="Places of the slots"
              onchoose={(place) => draft.touch(place)}
            />
          </div>
          {#if !draft.chosen}
            <div class="flex flex-wrap gap-1.5">
              {#each beside as place (place.kind === 'wide view' || place.kind === 'photograph' ? place.view : '')}
                <button class="button text-small px-3" onclick={() => draft.touch(place)}
                  >{'view' in place ? place.view : ''}</button
                >
              {/each}
            </div>
          {/if}
        {/if}
        {#if draft.chosen && !fixed && may.layPatterns}
          <SlotCard {draft} slot={draft.chosen} {notation} />
        {:else}
          <ol class="flex flex-col gap-1" aria-label="The route">
            {#each draft.order as id, i (id)}
              <li class="flex gap-2">
                <span class="text-ink-soft w-6 text-right font-bold">{i + 1}</span>{draft.slots.find(
                  (slot) => slot.id === id
                )?.name}
              </li>
            {/each}
          </ol>
        {/if}
      </aside>
    </div>
  </main>
</div>
