<script lang="ts">
  import { EyeOff, LoaderCircle, ShieldCheck } from '@lucide/svelte';
  import type { LeavingPicture, LeavingView } from '$core/deidentify/leavingView';
  import { pictureName } from '$core/picture/pictureView';
  import Choice from '$ui/kit/Choice.svelte';
  import Dialog from '$ui/kit/Dialog.svelte';
  import { Refused, ask, attempt, send } from '$ui/net/send';
  import PickList from '$ui/pictures/PickList.svelte';
  import Small from '$ui/pictures/Small.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';
  import { countWords } from '$ui/words';

  const store = theVisit();
  const { standing } = $derived(store);
  let dropped = $state<string[]>([]);
  const chosen = $derived(standing.filter((picture) => !dropped.includes(picture.pictureId)));
  let lookedAt = $state<string | null>(null);
  let leaving = $state.raw<LeavingView | null>(null);
  let message = $state('');
  let tableOpen = $state(false);
  let only = $state<'all' | 'changed' | 'removed' | 'kept'>('all');
  const kinds = [
    { value: 'all', words: 'All' },
    { value: 'changed', words: 'Changed' },
    { value: 'removed', words: 'Removed' },
    { value: 'kept', words: 'Kept' }
  ] as const;

  const ids = $derived(chosen.map((picture) => picture.pictureId).join(' '));
  $effect(() => {
    const pictureIds = ids.split(' ').filter(Boolean);
    leaving = null;
    if (pictureIds.length === 0) return;
    let stale = false;
    send<LeavingView>('POST', `/api/visits/${store.head.visitId}/leaving`, { pictureIds })
      .then((view) => {
        if (!stale) [leaving, message] = [view, ''];
      })
      .catch((error) => {
        if (error instanceof Refused) message = `${error.sentence} ${error.next}`;
      });
    return () => (stale = true);
  });

  async function sayNothingStandsIn() {
    const { pictureId } = shown!;
    if (!(await attempt(() => ask(`/api/pictures/${pictureId}/no-lettering`, {})))) return;
    leaving = {
      ...leaving!,
      pictures: leaving!.pictures.map((each) =>
        each.pictureId === pictureId ? { ...each, mustLook: false } : each
      )
    };
  }

  const shown = $derived(
    leaving?.pictures.find((each) => each.pictureId === lookedAt) ?? leaving?.pictures[0] ?? null
  );
  const picture = $derived(shown ? store.picture(shown.pictureId) : undefined);
  const rows = $derived(
    (shown?.changes ?? []).filter((row) =>
      only === 'all'
        ? true
        : only === 'changed'
          ? ['replaced', 'moved', 'emptied', 'added'].includes(row.what)
          : row.what === only
    )
  );
  const tones: Record<string, string> = {
    kept: 'text-ink-soft',
    replaced: 'text-lagoon',
    moved: 'text-lagoon',
    emptied: 'text-lagoon',
    added: 'text-lagoon',
    removed: 'text-brass'
  };
  const shift = $derived(
    leaving
      ? `${countWords(Math.abs(leaving.dateShiftDays), 'day', 'days')} ${leaving.dateShiftDays < 0 ? 'earlier' : 'later'}`
      : ''
  );
  /** What happens, one line a deed, the weightiest first. */
  const lines = ({ words }: LeavingPicture) => [
    { deed: 'Replaced', by: `by ${leaving!.pseudonym} and new numbers`, what: words.replaced },
    { deed: 'Moved', by: `all by the same ${shift}`, what: words.moved },
    { deed: 'Dropped', by: 'nothing stands in their place', what: words.removed }
  ];
  const listed = (what: readonly string[]) =>
    what.length > 1 ? `${what.slice(0, -1).join(', ')} and ${what.at(-1)}` : (what[0] ?? 'nothing');
</script>

<main class="flex min-h-0 flex-1 gap-3 px-4 pb-4">
  <section class="panel flex w-56 shrink-0 flex-col gap-2 overflow-y-auto p-3" aria-labelledby="which">
    <h2 id="which" class="heading">Pictures to look at</h2>
    <PickList
      pictures={standing}
      chosen={chosen.map((each) => each.pictureId)}
      lookedAt={shown?.pictureId ?? null}
      verb="Look at"
      testid="leaving-picture"
      onchoose={(kept) =>
        (dropped = standing.map((each) => each.pictureId).filter((id) => !kept.includes(id)))}
      onlook={(id) => (lookedAt = id)}
    />
  </section>
  <section class="panel flex min-w-0 flex-1 flex-col overflow-y-auto p-6" aria-labelledby="what">
    <h1 id="what" class="text-title font-bold">What would leave</h1>
    {#if message}<p class="text-brass mt-3 font-semibold">{message}</p>
    {:else if shown && leaving}
      <p class="text-lead mt-1">
        {picture ? pictureName(picture) : 'This picture'} leaves as
        <strong data-testid="pseudonym">{leaving.pseudonym}</strong>, dated {shift} than it was taken.
      </p>
      <dl class="mt-5 flex flex-col gap-4" data-testid="leaving-words">
        {#each lines(shown) as { deed, by, what } (deed)}
          <div class="border-rule border-l-4 pl-4">
            <dt class="flex items-baseline gap-2">
              <span class="text-lead font-bold">{deed}</span><span class="text-small text-ink-soft">{by}</span
              >
            </dt>
            <dd class="text-lead">{listed(what)}.</dd>
          </div>
        {/each}
        <div class="border-rule border-l-4 pl-4">
          <dt class="text-lead font-bold">Kept</dt>
          <dd class="text-lead">
            {countWords(shown.words.kept, 'attribute', 'attributes')} about the picture itself: how it was taken,
            how large its pixels are, what part of the body it shows.
          </dd>
        </div>
      </dl>
      <p class="text-small text-ink-soft mt-5 max-w-prose">
        The pseudonym and the days are the same for all pictures of this patient. Only attributes on the
        keep-list leave. Readings, lines and file names stay here.
      </p>
      <div class="mt-auto pt-4">
        <button class="button" onclick={() => (tableOpen = true)} data-testid="show-attributes"
          >Show all {shown.changes.length} attributes, before and after</button
        >
      </div>
    {:else if chosen.length === 0}<p class="text-ink-soft mt-3">Choose a picture at the left.</p>
    {:else}<p class="text-ink-soft mt-3 flex items-center gap-2">
        <LoaderCircle size={18} class="animate-spin" aria-hidden="true" />Working out what would leave
      </p>{/if}
  </section>
  <aside class="panel flex w-76 shrink-0 flex-col gap-3 overflow-y-auto p-4" aria-label="Checked">
    {#if picture && shown}
      <Small {picture} alt="The picture as it would leave" frame="h-44 w-full rounded-lg shrink-0" />
      <h2 class="text-lead flex items-center gap-2 font-bold">
        <ShieldCheck size={20} aria-hidden="true" />What was checked
      </h2>
      <ul class="flex flex-col gap-2">
        {#each shown.checked as check (check)}
          <li class="text-small flex gap-2">
            <ShieldCheck size={17} class="text-lagoon mt-0.5 shrink-0" aria-hidden="true" />{check}
          </li>
        {/each}
      </ul>
      {#if shown.mustLook}
        <div class="bg-brass-wash text-brass flex flex-col gap-2 rounded-lg p-3" data-testid="must-look">
          <p class="flex gap-2 font-semibold">
            <EyeOff size={18} class="mt-0.5 shrink-0" aria-hidden="true" />Names, numbers or a face may stand
            in the picture itself. Look at it: nothing is masked.
          </p>
          <button class="button" onclick={sayNothingStandsIn}>I looked: none stand in it</button>
        </div>
      {/if}
    {/if}
    <a class="button main mt-auto" href="/visits/{store.head.visitId}/file?identity=deidentified"
      >On to File, de-identified</a
    >
  </aside>
</main>

<Dialog bind:open={tableOpen} title="All attributes, before and after" wide>
  <div class="mb-2"><Choice label="Attributes shown" bind:value={only} options={kinds} testid="only" /></div>
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div class="h-[55vh] overflow-auto" tabindex="0" role="region" aria-label="Attributes before and after">
    <table class="text-small w-full table-fixed">
      <thead class="bg-sheet sticky top-0 text-left">
        <tr>
          <th class="w-[30%] py-2">Attribute</th>
          <th class="w-[29%] py-2">Before</th>
          <th class="w-[28%] py-2">After</th>
          <th class="w-[13%] py-2">What is done</th>
        </tr>
      </thead>
      <tbody>
        {#each rows as row (row.tag)}
          <tr class="border-rule/60 border-t align-top" data-testid="change-{row.what}">
            <td class="py-1.5 pr-2">
              <span class="font-semibold">{row.name}</span>
              <span class="text-ink-soft block">{row.tag.slice(0, 4)},{row.tag.slice(4)}</span>
            </td>
            <td class="py-1.5 pr-2 break-words {row.what === 'removed' ? 'line-through decoration-1' : ''}"
              >{row.before}</td
            >
            <td class="py-1.5 pr-2 font-semibold break-words">{row.after}</td>
            <td class="py-1.5 font-semibold {tones[row.what]}">{row.what}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
</Dialog>
