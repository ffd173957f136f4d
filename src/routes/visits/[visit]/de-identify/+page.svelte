<script lang="ts">
  import { EyeOff, LoaderCircle, ShieldCheck } from '@lucide/svelte';
  import type { LeavingView } from '$lib/server/deidentify/leaving';
  import { Refused, send } from '$ui/net/send';
  import { previewUrl } from '$ui/previewUrl';

  let { data } = $props();
  const visit = $derived(data.visit);
  const standing = $derived.by(() => {
    const wells = visit.tray.route.map((id) => visit.tray.wells[id]);
    const ids = [...wells.flatMap((well) => (well.keeper ? [well.keeper] : [])), ...visit.tray.bench];
    return ids.flatMap((id) => visit.pictures.find((picture) => picture.pictureId === id) ?? []);
  });
  let dropped = $state<string[]>([]);
  const chosen = $derived(standing.filter((picture) => !dropped.includes(picture.pictureId)));
  let lookedAt = $state<string | null>(null);
  let leaving = $state<LeavingView | null>(null);
  let says = $state('');
  let only = $state<'all' | 'changed' | 'removed' | 'kept'>('all');
  const kinds = { all: 'All', changed: 'Changed', removed: 'Removed', kept: 'Kept' } as const;

  const ids = $derived(chosen.map((picture) => picture.pictureId).join(' '));
  $effect(() => {
    const pictureIds = ids.split(' ').filter(Boolean);
    leaving = null;
    if (pictureIds.length === 0) return;
    let stale = false;
    send<LeavingView>('POST', `/api/visits/${visit.visitId}/leaving`, { pictureIds })
      .then((view) => {
        if (!stale) [leaving, says] = [view, ''];
      })
      .catch((error) => {
        if (error instanceof Refused) says = `${error.sentence} ${error.next}`;
      });
    return () => (stale = true);
  });

  const shown = $derived(
    leaving?.pictures.find((each) => each.pictureId === lookedAt) ?? leaving?.pictures[0] ?? null
  );
  const picture = $derived(visit.pictures.find((each) => each.pictureId === shown?.pictureId) ?? null);
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
      ? `${Math.abs(leaving.dateShiftDays)} days ${leaving.dateShiftDays < 0 ? 'earlier' : 'later'}`
      : ''
  );

  function toggle(pictureId: string) {
    dropped = dropped.includes(pictureId)
      ? dropped.filter((id) => id !== pictureId)
      : [...dropped, pictureId];
  }
</script>

<main class="flex min-h-0 flex-1 gap-3 px-4 pb-4">
  <section class="panel flex w-56 shrink-0 flex-col gap-2 overflow-y-auto p-3" aria-labelledby="which">
    <h2 id="which" class="heading">Pictures to look at</h2>
    {#each standing as each (each.pictureId)}
      <div
        class="flex items-center gap-2 rounded-lg border {shown?.pictureId === each.pictureId
          ? 'border-coral ring-coral ring-2'
          : 'border-rule'} p-1.5"
      >
        <input
          type="checkbox"
          checked={!dropped.includes(each.pictureId)}
          onchange={() => toggle(each.pictureId)}
          class="accent-ink size-6"
          aria-label="Look at {each.slot?.name ?? each.fileName}"
        />
        <button class="min-w-0 flex-1 text-left" onclick={() => (lookedAt = each.pictureId)}>
          <img src={previewUrl(each)} alt="" class="bg-stage h-16 w-full rounded object-contain" />
          <span class="text-small block truncate font-semibold"
            >{each.slot?.name ?? (each.fileName || 'Bench')}</span
          >
        </button>
      </div>
    {:else}<p class="text-ink-soft">No picture yet.</p>{/each}
  </section>
  <section class="panel flex min-w-0 flex-1 flex-col" aria-labelledby="what">
    <div class="border-rule flex flex-wrap items-center gap-x-6 gap-y-2 border-b px-5 py-3">
      <div>
        <h1 id="what" class="text-title font-bold">What would leave</h1>
        {#if leaving}
          <p class="text-ink-soft">
            as <strong class="text-ink" data-testid="pseudonym">{leaving.pseudonym}</strong>, dates {shift}
          </p>
        {/if}
      </div>
      <div class="ml-auto flex gap-1" role="group" aria-label="Attributes shown">
        {#each Object.entries(kinds) as [kind, words] (kind)}
          <button
            class="button px-3 {only === kind ? 'border-coral! bg-coral-wash!' : ''}"
            aria-pressed={only === kind}
            onclick={() => (only = kind as typeof only)}>{words}</button
          >
        {/each}
      </div>
    </div>
    {#if says}<p class="text-brass px-5 py-4 font-semibold">{says}</p>
    {:else if shown}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div
        class="min-h-0 flex-1 overflow-auto"
        tabindex="0"
        role="region"
        aria-label="Attributes before and after"
      >
        <table class="text-small w-full table-fixed">
          <thead class="bg-sheet sticky top-0 text-left">
            <tr>
              <th class="w-[30%] py-2 pl-5">Attribute</th>
              <th class="w-[29%] py-2">Before</th>
              <th class="w-[29%] py-2">After</th>
              <th class="w-[12%] py-2 pr-4">What is done</th>
            </tr>
          </thead>
          <tbody>
            {#each rows as row (row.tag)}
              <tr class="border-rule/60 border-t align-top" data-testid="change-{row.what}">
                <td class="py-1.5 pr-2 pl-5">
                  <span class="font-semibold">{row.name}</span>
                  <span class="text-ink-soft block">{row.tag.slice(0, 4)},{row.tag.slice(4)}</span>
                </td>
                <td
                  class="py-1.5 pr-2 break-words {row.what === 'removed' ? 'line-through decoration-1' : ''}"
                  >{row.before}</td
                >
                <td class="py-1.5 pr-2 font-semibold break-words">{row.after}</td>
                <td class="py-1.5 pr-4 font-semibold {tones[row.what]}">{row.what}</td>
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
    {:else if chosen.length === 0}<p class="text-ink-soft px-5 py-4">Choose a picture at the left.</p>
    {:else}<p class="text-ink-soft flex items-center gap-2 px-5 py-4">
        <LoaderCircle size={18} class="animate-spin" aria-hidden="true" />Working out what would leave
      </p>{/if}
  </section>
  <aside class="panel flex w-76 shrink-0 flex-col gap-3 overflow-y-auto p-4" aria-label="Checked">
    {#if picture && shown}
      <img
        src={previewUrl(picture)}
        alt="The picture as it would leave"
        class="bg-stage h-44 w-full rounded-lg object-contain"
      />
      <h2 class="text-lead flex items-center gap-2 font-bold">
        <ShieldCheck size={20} aria-hidden="true" />What was checked
      </h2>
      <ul class="flex flex-col gap-2">
        {#each shown.checked as check, i (check)}
          <li
            class="text-small flex gap-2 {i === shown.checked.length - 1 ? 'text-brass font-semibold' : ''}"
          >
            {#if i === shown.checked.length - 1}<EyeOff
                size={17}
                class="mt-0.5 shrink-0"
                aria-hidden="true"
              />{:else}<ShieldCheck size={17} class="text-lagoon mt-0.5 shrink-0" aria-hidden="true" />{/if}
            {check}
          </li>
        {/each}
      </ul>
      <p class="text-small text-ink-soft">
        The pseudonym and the days are the same for all pictures of this patient. Only attributes on the
        keep-list leave. Readings, lines and file names stay here.
      </p>
    {/if}
    <a class="button main mt-auto" href="/visits/{visit.visitId}/file?identity=deidentified"
      >On to File, de-identified</a
    >
  </aside>
</main>
