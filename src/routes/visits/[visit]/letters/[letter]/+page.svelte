<script lang="ts">
  import { beforeNavigate, goto } from '$app/navigation';
  import { FileCheck2 } from '@lucide/svelte';
  import { untrack } from 'svelte';
  import type { Editor } from 'svelte-tiptap';
  import type { LetterFilling, LetterSaid } from '$core/letter/letterView';
  import { carriesPapers } from '$core/parcel/destination';
  import { again } from '$ui/net/going';
  import Choice from '$ui/kit/Choice.svelte';
  import Dialog from '$ui/kit/Dialog.svelte';
  import ColleagueForm from '$ui/letter/ColleagueForm.svelte';
  import AboutCard from '$ui/letter/AboutCard.svelte';
  import InsertStrip from '$ui/letter/InsertStrip.svelte';
  import KeepRefused from '$ui/letter/KeepRefused.svelte';
  import KeptMark from '$ui/letter/KeptMark.svelte';
  import { Keeping, keepAs } from '$ui/letter/keeping.svelte';
  import { LetterDesk } from '$ui/letter/letterDesk.svelte';
  import LetterSheet from '$ui/letter/LetterSheet.svelte';
  import MissingList from '$ui/letter/MissingList.svelte';
  import SheetTitle from '$ui/letter/SheetTitle.svelte';
  import PlaceCard from '$ui/letter/PlaceCard.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  // svelte-ignore state_referenced_locally
  const { letter } = data;
  const may = $derived(data.who!.may.writeLetters);
  const base = $derived(`/visits/${store.head.visitId}/letters`);

  let title = $state(letter.title);
  let said = $state.raw<LetterSaid>({
    names: letter.names,
    colleagueId: letter.colleagueId,
    reasons: letter.reasons,
    procedures: letter.procedures
  });
  // svelte-ignore state_referenced_locally
  const desk = new LetterDesk(letter.body, () => data.who!.notation, may);
  // svelte-ignore state_referenced_locally
  desk.filling = data.filling;
  let editor = $state.raw<Editor | null>(null);

  let seq = letter.seq;
  const wish = () => ({ title: title.trim() || letter.title, body: desk.body, ...said });
  const keeping = new Keeping<ReturnType<typeof wish>>(async (next, key) => {
    const url = `/api${base}/${letter.letterId}`;
    const kept = await keepAs<{ seq: number; filling: LetterFilling }>(url, { of: seq, ...next }, key);
    seq = kept.seq;
    desk.filling = kept.filling;
  });
  const put = () => keeping.put(wish());
  beforeNavigate(() => void keeping.flush());
  // A picture that is changed meanwhile is shown as it is now.
  const stamp = $derived(JSON.stringify(store.pictures.map(({ pictureId, seq: of }) => [pictureId, of])));
  let before = untrack(() => stamp);
  $effect(() => {
    if (stamp === before) return;
    before = stamp;
    untrack(() => may && put());
  });

  const missing = $derived(desk.filling?.missing ?? []);
  /** By initials something is kept back on purpose: that is told, and nothing to wait for. */
  const open = $derived(missing.filter(({ kind }) => kind !== 'kept back'));
  let shown = $state<'missing' | 'about' | 'put in'>('missing');
  // svelte-ignore state_referenced_locally
  let colleagues = $state.raw(data.colleagues);
  let adding = $state(false);
  let telling = $state(false);
  async function make() {
    await keeping.flush();
    if (keeping.state !== 'kept') return;
    await again('yonder:letter');
    if (open.length > 0) telling = true;
    else await goto(`${base}/${letter.letterId}/paper`);
  }
</script>

<main class="grid min-h-0 flex-1 grid-cols-[1fr_21rem] gap-4 px-4 pb-4">
  <LetterSheet {desk} label="The letter {title}" onchange={put} onready={(ready) => (editor = ready)} />
  <aside class="flex min-h-0 flex-col gap-3" aria-label="The letter">
    <div class="panel flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-4">
      <SheetTitle
        bind:name={title}
        label="What this letter is called"
        back={{ href: base, words: 'All letters of this visit' }}
        readonly={!may}
        testid="letter-title"
        oninput={put}
      />
      <KeepRefused {keeping} />
      {#if desk.place && may}
        <PlaceCard {desk} categories={data.categories} patientId={store.head.patient.patientId} />
      {:else}
        <Choice
          label="What lies beside the sheet"
          small
          bind:value={shown}
          testid="letter-side"
          options={[
            { value: 'missing', words: open.length > 0 ? `Missing ${open.length}` : 'Missing' },
            { value: 'about', words: 'About' },
            ...(may ? [{ value: 'put in' as const, words: 'Put in' }] : [])
          ]}
        />
        {#if shown === 'about'}
          <AboutCard
            {said}
            offered={data.offered}
            {colleagues}
            disabled={!may}
            onchange={(next) => {
              said = next;
              put();
            }}
            onnew={may ? () => (adding = true) : undefined}
          />
        {:else if shown === 'put in'}
          <InsertStrip ready={editor !== null} {desk} />
        {:else if missing.length > 0}
          <MissingList {missing} onchoose={({ of }) => (desk.selected = of)} />
        {:else}
          <p class="text-ink-soft">Everything it asks for is there.</p>
        {/if}
      {/if}
    </div>
    <div class="flex items-center justify-between gap-3">
      <KeptMark state={keeping.state} />
      {#if data.who!.may.send}
        <button class="button main" onclick={make} data-testid="letter-make"
          ><FileCheck2 size={18} aria-hidden="true" />Make it</button
        >
      {/if}
    </div>
  </aside>
</main>

<Dialog bind:open={telling} title="This letter is not whole yet">
  <MissingList missing={open} />
  <div class="mt-3 flex justify-end gap-2">
    <button class="button" onclick={() => (telling = false)} data-testid="letter-back">Back to it</button>
    <a class="button main" href="{base}/{letter.letterId}/paper" data-testid="letter-make-so"
      >Make it without</a
    >
  </div>
</Dialog>
<ColleagueForm
  bind:open={adding}
  colleague={null}
  destinations={data.destinations.filter(carriesPapers)}
  onkept={(colleague) => {
    colleagues = [...colleagues, colleague];
    said = { ...said, colleagueId: colleague.colleagueId };
    put();
  }}
/>
