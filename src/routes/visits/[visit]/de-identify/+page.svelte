<script lang="ts">
  import { LoaderCircle, ShieldCheck, TableProperties } from '@lucide/svelte';
  import { untrack } from 'svelte';
  import { toast } from 'svelte-sonner';
  import type { LeavingPicture, LeavingView } from '$core/deidentify/leavingView';
  import type { Area } from '$core/raster/area';
  import { pictureName } from '$core/picture/pictureView';
  import Select from '$ui/kit/Select.svelte';
  import AttributesDialog from '$ui/leaving/AttributesDialog.svelte';
  import { VeilDesk, leavingOf } from '$ui/leaving/veilDesk.svelte';
  import VeilPanel from '$ui/leaving/VeilPanel.svelte';
  import VeilStage from '$ui/leaving/VeilStage.svelte';
  import PickList from '$ui/pictures/PickList.svelte';
  import { describeKeys } from '$ui/shell/keys.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const store = theVisit();
  const { standing } = $derived(store);
  let dropped = $state<string[]>([]);
  const chosen = $derived(standing.filter((picture) => !dropped.includes(picture.pictureId)));
  let lookedAt = $state<string | null>(null);
  let leaving = $state.raw<LeavingView | null>(null);
  let message = $state('');
  let tableOpen = $state(false);
  let ruleId = $state<string>('');
  let drawing = $state<'veil' | 'only' | null>(null);
  let picked = $state<number | null>(null);
  let frame = $state(0);
  /** How often something was said of a picture here: what would leave is then otherwise. */
  let saidCount = $state(0);
  // svelte-ignore state_referenced_locally
  ruleId = data.rules[0]?.ruleId ?? '';

  const ids = $derived(chosen.map((picture) => picture.pictureId).join(' '));
  /** What is masked, and of which somebody said that they looked: then what would leave is otherwise. */
  const veilKey = $derived(standing.map(({ layers }) => JSON.stringify(layers.veils)).join());
  $effect(() => {
    const pictureIds = ids.split(' ').filter(Boolean);
    void veilKey;
    void saidCount;
    if (pictureIds.length === 0) {
      leaving = null;
      return;
    }
    let stale = false;
    void leavingOf<LeavingView>(store.head.visitId, pictureIds, ruleId || null).then((found) => {
      if (stale) return;
      if (typeof found === 'string') message = found;
      else [leaving, message] = [found, ''];
    });
    return () => (stale = true);
  });

  const shown = $derived(
    leaving?.pictures.find((each) => each.pictureId === lookedAt) ?? leaving?.pictures[0] ?? null
  );
  const pictureId = $derived(lookedAt ?? chosen[0]?.pictureId ?? null);
  const picture = $derived(pictureId ? store.picture(pictureId) : undefined);
  let desk = $state.raw<VeilDesk | null>(null);
  $effect(() => {
    const now = picture;
    if (!now) {
      desk = null;
      return;
    }
    if (desk?.pictureId === now.pictureId) {
      // Somebody else may have laid veils meanwhile.
      untrack(() => desk!.hear(now.layers.veils, now.seq));
      return;
    }
    desk?.stop();
    desk = new VeilDesk(now);
    [picked, drawing, frame] = [null, null, 0];
    return;
  });
  $effect(() => () => desk?.stop());

  /** Others of its series: as large and of the same kind, and not veiled alike. */
  const alike = $derived(
    picture && desk
      ? standing
          .filter(
            (each) =>
              each.pictureId !== picture.pictureId &&
              each.kind === picture.kind &&
              each.width === picture.width &&
              each.height === picture.height &&
              JSON.stringify(each.layers.veils?.veils ?? []) !== JSON.stringify(desk!.veils.veils)
          )
          .map((each) => each.pictureId)
      : []
  );

  async function drawn(area: Area) {
    const what = drawing;
    drawing = null;
    if (what === 'only') await desk!.keepOnly(area);
    else if (await desk!.add(area)) picked = desk!.veils.veils.length - 1;
  }
  const rule = $derived(data.rules.find((each) => each.ruleId === ruleId));
  const shift = $derived(
    leaving
      ? leaving.dates === 'kept'
        ? 'with its own dates'
        : leaving.dates === 'removed'
          ? 'without a date'
          : `dated ${countWords(Math.abs(leaving.dateShiftDays), 'day', 'days')} earlier`
      : ''
  );
  /** What happens, one line a deed, the weightiest first. */
  const lines = ({ words }: LeavingPicture) => [
    { deed: 'Replaced', what: words.replaced },
    { deed: 'Moved', what: words.moved },
    { deed: 'Cleaned', what: words.cleaned },
    { deed: 'Dropped', what: words.removed }
  ];
  const listed = (what: readonly string[]) =>
    what.length > 1 ? `${what.slice(0, -1).join(', ')} and ${what.at(-1)}` : (what[0] ?? 'nothing');
  const under = ({ pictureId: id, layers }: (typeof standing)[number]) => {
    const areas = (layers.veils?.veils.length ?? 0) + (layers.veils?.only ? 1 : 0);
    const of = leaving?.pictures.find((each) => each.pictureId === id);
    return of?.asks && !of.looked
      ? { words: 'to be looked at', done: false }
      : { words: areas > 0 ? countWords(areas, 'veil', 'veils') : 'nothing masked', done: areas > 0 };
  };
  $effect(() =>
    describeKeys([
      { key: '← →', does: 'Frame by frame' },
      { key: 'Arrows', does: 'Move the veil that is picked; with Shift its size' },
      { key: 'Delete', does: 'Take the veil off' }
    ])
  );
</script>

<main class="flex min-h-0 flex-1 gap-3 px-4 pb-4">
  <section class="panel flex w-48 shrink-0 flex-col gap-2 overflow-y-auto p-2.5" aria-labelledby="which">
    <h2 id="which" class="heading">What leaves</h2>
    <PickList
      pictures={standing}
      chosen={chosen.map((each) => each.pictureId)}
      lookedAt={pictureId}
      verb="Let leave"
      testid="leaving-picture"
      {under}
      onchoose={(kept) =>
        (dropped = standing.map((each) => each.pictureId).filter((id) => !kept.includes(id)))}
      onlook={(id) => (lookedAt = id)}
    />
  </section>
  <section class="panel flex min-w-0 flex-1 flex-col overflow-hidden" aria-label="As it will arrive">
    <h1 class="flex items-baseline gap-2 px-4 py-2.5">
      <span class="text-lead font-bold">As it will arrive</span>
      <span class="text-small text-ink-soft truncate">{picture ? pictureName(picture) : ''}</span>
    </h1>
    <div class="min-h-0 flex-1">
      {#if picture && desk && desk.pictureId === picture.pictureId}
        {#key picture.pictureId}
          <VeilStage
            {picture}
            {desk}
            {drawing}
            {picked}
            bind:frame
            ondrawn={drawn}
            onpick={(index) => (picked = index)}
          />
        {/key}
      {:else}<p class="text-ink-soft p-6">Choose a picture at the left.</p>{/if}
    </div>
  </section>
  <aside class="panel flex w-84 shrink-0 flex-col overflow-hidden" aria-label="The seal">
    <div class="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto p-4">
      <div>
        <span class="heading mb-1 block">Identity rule</span>
        <Select
          label="Identity rule"
          bind:value={ruleId}
          options={data.rules.map((each) => ({ value: each.ruleId, words: each.name }))}
          testid="rule"
        />
      </div>
      {#if message}<p class="text-brass font-semibold">{message}</p>
      {:else if shown && leaving}
        <div class="flex flex-col gap-2">
          <p>
            Leaves as <strong data-testid="pseudonym">{leaving.pseudonym}</strong>, {shift}.
            {#if rule}<span class="text-small text-ink-soft block"
                >{leaving.ruleWords.slice(1).join(' ')}</span
              >{/if}
          </p>
        </div>
      {:else if chosen.length > 0}<p class="text-ink-soft flex items-center gap-2">
          <LoaderCircle size={18} class="animate-spin" aria-hidden="true" />Working out what would leave
        </p>{/if}
      {#if desk && picture}
        <VeilPanel
          {desk}
          asks={shown?.pictureId === picture.pictureId ? shown.asks && !shown.looked : false}
          frames={picture.frames}
          bind:drawing
          bind:picked
          {alike}
          onshow={(at) => (frame = at)}
          onlaid={(count) =>
            toast.success(`The same veils lie on ${countWords(count, 'picture', 'pictures')} more.`)}
        />
      {/if}
      {#if shown && leaving}
        <div class="border-rule flex flex-col gap-2 border-t pt-3">
          <dl class="flex flex-col gap-1.5" data-testid="leaving-words">
            {#each lines(shown) as { deed, what } (deed)}
              {#if what.length > 0}
                <div class="border-rule border-l-4 pl-3 leading-snug">
                  <dt class="inline font-bold">{deed}:</dt>
                  <dd class="text-small inline">{listed(what)}.</dd>
                </div>
              {/if}
            {/each}
            <div class="border-rule border-l-4 pl-3 leading-snug">
              <dt class="inline font-bold">Kept:</dt>
              <dd class="text-small inline">
                {countWords(shown.words.kept, 'attribute', 'attributes')} about the picture itself.
              </dd>
            </div>
          </dl>
          <button class="button text-small" onclick={() => (tableOpen = true)} data-testid="show-attributes"
            ><TableProperties size={18} aria-hidden="true" />All {shown.changes.length} attributes, before and after</button
          >
        </div>
      {/if}
      {#if shown}
        <ul class="border-rule flex flex-col gap-1.5 border-t pt-3" aria-label="What was checked">
          {#each shown.checked as check (check)}
            <li class="text-small flex gap-2">
              <ShieldCheck size={17} class="text-lagoon mt-0.5 shrink-0" aria-hidden="true" />{check}
            </li>
          {/each}
        </ul>
      {/if}
    </div>
    <div class="border-rule border-t p-3">
      <a
        class="button main w-full"
        href="/visits/{store.head.visitId}/file?identity=deidentified&rule={ruleId}"
        >On to File, de-identified</a
      >
    </div>
  </aside>
</main>

{#if shown}
  {@const of = store.picture(shown.pictureId)}
  <AttributesDialog
    bind:open={tableOpen}
    picture={shown}
    name={of ? pictureName(of) : 'the picture'}
    onsaid={() => (saidCount += 1)}
  />
{/if}
