<script lang="ts">
  import { page } from '$app/state';
  import { filmSizes } from '$core/print/film';
  import type { FilmWish } from '$core/print/filmWish';
  import { type SheetName, sheetNames } from '$core/print/paper';
  import { type PrintLayout, usualHead } from '$core/print/printLayout';
  import { type PrintWay, type PrintWish, plainPrint } from '$core/print/printWish';
  import { type Claim, proposedClaim } from '$core/parcel/claim';
  import type { PictureView } from '$core/picture/pictureView';
  import { again } from '$ui/net/going';
  import { dayAtClinic, dayWords } from '$ui/clock';
  import Choice from '$ui/kit/Choice.svelte';
  import Select from '$ui/kit/Select.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import { type MadePaper, fetchPaper } from '$ui/report/fetchPaper';
  import NamesChoice from '$ui/report/NamesChoice.svelte';
  import PaperDesk from '$ui/report/PaperDesk.svelte';
  import LayoutEditor from '$ui/report/LayoutEditor.svelte';
  import PrintFilm from '$ui/report/PrintFilm.svelte';
  import PrintPictures from '$ui/report/PrintPictures.svelte';
  import Printers from '$ui/report/Printers.svelte';
  import { ask, attempt } from '$ui/net/send';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  const { visitId, patient } = $derived(store.head);

  // What this machine printed with the last time: the printer stands beside it.
  const remembered = 'yonder print';
  function begun(): PrintWish {
    const asked = page.url.searchParams.get('picture');
    const standing = store.standing.map(({ pictureId }) => pictureId);
    const before = (() => {
      try {
        return JSON.parse(localStorage.getItem(remembered) ?? '{}') as Partial<PrintWish> & {
          layoutId?: string;
        };
      } catch {
        return {};
      }
    })();
    const { layoutId: last = '', ...choices } = before;
    const kept = data.layouts.find((each) => each.layoutId === last);
    layoutId = kept?.layoutId ?? '';
    return {
      ...plainPrint,
      ...choices,
      head: kept ? headOf(kept.layout) : null,
      printerId: data.printers.some(({ printerId }) => printerId === before.printerId)
        ? before.printerId!
        : null,
      names: 'initials',
      way: asked ? 'true' : before.way === 'true' || before.way === 'claim' ? 'grid' : (before.way ?? 'grid'),
      // What one picture at its true size wants is told by the picture, not by the last sheet.
      lying: !asked && (before.lying ?? false),
      pictureIds: asked ? [asked] : standing
    };
  }
  let layoutId = $state('');
  let wish = $state.raw<PrintWish>(plainPrint);
  let begunOnce = $state(false);
  $effect(() => {
    if (begunOnce) return;
    wish = begun();
    begunOnce = true;
  });
  function change(by: Partial<PrintWish>) {
    wish = { ...wish, ...by };
    const { pictureIds: _, names: __, ...rest } = wish;
    try {
      localStorage.setItem(remembered, JSON.stringify({ ...rest, layoutId }));
    } catch {
      // What can't be remembered is chosen anew.
    }
  }

  const chosen = $derived(new Set(wish.pictureIds));
  /** In the order of the trays, whatever order they were ticked in. */
  const put = (pictureId: string, into: boolean) =>
    change({
      pictureIds: store.pictures
        .toSorted((a, b) => placeOf(a.pictureId) - placeOf(b.pictureId))
        .map((picture) => picture.pictureId)
        .filter((id) => (id === pictureId ? into : chosen.has(id)))
    });
  const placeOf = (id: string) => {
    const at = store.standing.findIndex(({ pictureId }) => pictureId === id);
    return at < 0 ? store.standing.length : at;
  };
  /** Takes that stand for nothing are offered only where one of them was asked for. */
  const offered = $derived([
    ...store.standing,
    ...store.pictures.filter(
      ({ pictureId }) => chosen.has(pictureId) && !store.standing.some((each) => each.pictureId === pictureId)
    )
  ]);
  let onto = $state<'paper' | 'film'>('paper');
  let film = $state.raw<{ destinationId: string; size: FilmWish['size'] | null; copies: number }>({
    destinationId: '',
    size: null,
    copies: 1
  });
  const filmPrinter = $derived(
    data.filmPrinters.find(({ destinationId }) => destinationId === film.destinationId) ??
      data.filmPrinters.at(0)
  );
  const filmWish = $derived.by((): FilmWish | null => {
    if (onto === 'paper' || !filmPrinter) return null;
    const { pictureIds, way, across, down, lying, names, captions, drawn } = wish;
    const { destinationId, sizes } = filmPrinter;
    return {
      ...{ destinationId, pictureIds, across, down: Math.min(6, down), lying, names, captions, drawn },
      way: way === 'true' ? 'true' : 'grid',
      size: film.size && sizes.includes(film.size) ? film.size : sizes[0],
      copies: film.copies
    };
  });
  const way = $derived(filmWish?.way ?? wish.way);
  const ways = $derived<{ value: PrintWay; words: string }[]>([
    { value: 'true', words: 'To scale' },
    { value: 'grid', words: 'In rows' },
    ...(filmWish
      ? []
      : [
          { value: 'tray' as const, words: 'As on the tray' },
          { value: 'claim' as const, words: 'For a claim' }
        ])
  ]);

  /** What is told of each picture for a claim: as somebody has said here, as an office was told, or as it is proposed. */
  let claims = $state.raw<Readonly<Record<string, Claim>>>({});
  const desk = {
    claimOf: (picture: PictureView): Claim =>
      claims[picture.pictureId] ??
      data.claimed[picture.pictureId]?.claim ??
      proposedClaim(picture, dayAtClinic(picture.takenAt)),
    tell: (picture: PictureView, part: Partial<Claim>) =>
      (claims = { ...claims, [picture.pictureId]: { ...desk.claimOf(picture), ...part } })
  };
  const sent = $derived({
    ...wish,
    ...(way === 'claim'
      ? {
          claims: Object.fromEntries(
            store.pictures
              .filter(({ pictureId }) => chosen.has(pictureId))
              .map((picture) => [picture.pictureId, desk.claimOf(picture)])
          )
        }
      : {})
  });
  /** An office has to know whose picture it is, and what it is told has to have room. */
  const chooseWay = (value: PrintWay) =>
    change({
      way: value,
      lying: value === 'tray',
      ...(value === 'claim'
        ? { names: 'full', across: Math.min(2, wish.across), down: Math.min(2, wish.down) }
        : {})
    });
  const headOf = ({ fields, logo }: PrintLayout) => ({ fields, logo });
  /** What a layout says of the sheets: all but its name, and pictures are what they are. */
  const choicesOf = ({ name: _, fields, logo, ...choices }: PrintLayout) => ({
    ...choices,
    head: { fields, logo }
  });
  function chooseLayout(id: string) {
    layoutId = id;
    const kept = data.layouts.find((each) => each.layoutId === id);
    change(kept ? choicesOf(kept.layout) : { head: null });
  }
  let draft = $state.raw<PrintLayout | null>(null);
  /** A layout begins with what is chosen here, and with what stands on every sheet. */
  function edit() {
    const { across, down, paper, lying, captions, drawn, inkSaving } = wish;
    const kept = data.layouts.find((each) => each.layoutId === layoutId)?.layout;
    draft = {
      name: kept?.name ?? '',
      way: way === 'tray' ? 'tray' : 'grid',
      ...{ across, down, paper, lying, captions, drawn, inkSaving },
      ...(kept ? headOf(kept) : usualHead(paper, lying))
    };
  }
  async function keepDraft() {
    const layout = draft!;
    await attempt(async () => {
      const { layoutId: id } = await ask<{ layoutId: string }>('/api/print-layouts', {
        layoutId: layoutId || null,
        layout
      });
      await again('yonder:layouts');
      [layoutId, draft] = [id, null];
      change(choicesOf(layout));
    });
  }
  const dropDraft = () =>
    attempt(async () => {
      await ask(`/api/print-layouts/${layoutId}`, {}, 'DELETE');
      await again('yonder:layouts');
      draft = null;
      chooseLayout('');
    });
  const asked = $derived(draft ? { ...sent, ...choicesOf(draft) } : sent);
  const numbers = (most: number) =>
    Array.from({ length: most }, (_, i) => ({ value: String(i + 1), words: String(i + 1) }));
  const stamp = $derived(
    JSON.stringify([filmWish ?? asked, begunOnce, store.pictures.map(({ seq }) => seq), data.printers])
  );
</script>

{#snippet filmAway(paper: MadePaper | null, films: number)}
  {#if filmWish && filmPrinter}
    <PrintFilm film={filmWish} printer={filmPrinter.name} {paper} {films} />
  {/if}
{/snippet}

<PaperDesk
  what="print"
  called={filmWish ? 'These films' : 'This print'}
  sheetWords={filmWish ? ['film', 'films'] : undefined}
  away={filmWish ? filmAway : undefined}
  fileName="Pictures {wish.names === 'full' ? patient.name : data.who!.clinicName} {dayWords(
    store.head.openedAt
  )}"
  may={data.who!.may.send}
  {stamp}
  nothing={begunOnce && wish.pictureIds.length === 0
    ? store.standing.length === 0
      ? 'This visit has no picture to print yet.'
      : 'Choose at least one picture.'
    : ''}
  make={(signal) =>
    filmWish
      ? fetchPaper(`/api/visits/${visitId}/film`, signal, filmWish)
      : fetchPaper(`/api/visits/${visitId}/print`, signal, asked)}
>
  {#if draft}
    <LayoutEditor
      layout={draft}
      hasLogo={data.hasLogo}
      isKept={layoutId !== ''}
      onchange={(now) => (draft = now)}
      onkeep={() => void keepDraft()}
      ondrop={() => void dropDraft()}
      oncancel={() => (draft = null)}
    />
  {:else}<section class="panel flex min-h-0 flex-col p-5" aria-label="What is printed">
      <div class="mb-3 flex items-center justify-between gap-3">
        <h1 class="text-title font-bold">Print</h1>
        {#if filmPrinter}
          <Choice
            label="Onto"
            testid="print-onto"
            small
            value={onto}
            options={[
              { value: 'paper', words: 'Paper' },
              { value: 'film', words: 'Film' }
            ]}
            onchange={(value) => (onto = value)}
          />
        {/if}
      </div>
      <Choice label="How" testid="print-way" small value={way} options={ways} wraps onchange={chooseWay} />
      <PrintPictures {offered} {chosen} {way} claimed={data.claimed} {desk} onput={put} />
      <div class="border-rule mt-3 flex flex-col gap-1 border-t pt-3">
        {#if way === 'grid' || way === 'claim'}
          <div class="flex items-center gap-2">
            <span class="flex-1">Side by side, and rows</span>
            <div class="w-20">
              <Select
                label="Pictures side by side"
                value={String(wish.across)}
                options={numbers(6)}
                onchange={(value) => change({ across: Number(value) })}
                small
                testid="print-across"
              />
            </div>
            <div class="w-20">
              <Select
                label="Rows on a sheet"
                value={String(filmWish?.down ?? wish.down)}
                options={numbers(filmWish ? 6 : 8)}
                onchange={(value) => change({ down: Number(value) })}
                small
                testid="print-down"
              />
            </div>
          </div>
        {:else if way === 'true' && !filmWish}
          <Printers
            printers={data.printers}
            printerId={wish.printerId}
            onchange={(printerId) => change({ printerId })}
          />
        {/if}
        {#if !filmWish && (data.layouts.length > 0 || data.who!.may.writeTemplates)}
          <div class="flex items-center gap-2">
            <span class="flex-1">Layout</span>
            <div class="w-44">
              <Select
                label="Layout"
                value={layoutId}
                options={[
                  { value: '', words: 'As usual' },
                  ...data.layouts.map((each) => ({ value: each.layoutId, words: each.layout.name }))
                ]}
                onchange={chooseLayout}
                small
                testid="print-layout"
              />
            </div>
            {#if data.who!.may.writeTemplates}
              <button class="button text-small px-2.5" onclick={edit} data-testid="edit-layout"
                >{layoutId ? 'Change' : 'New'}</button
              >
            {/if}
          </div>
        {/if}
        {#if filmWish && filmPrinter}
          <div class="flex items-center gap-2">
            <span class="flex-1">Printer</span>
            <div class="w-60">
              <Select
                label="Film printer"
                value={filmPrinter.destinationId}
                options={data.filmPrinters.map(({ destinationId: value, name, colour }) => ({
                  value,
                  words: name,
                  detail: colour ? 'prints colour' : 'prints grey'
                }))}
                onchange={(destinationId) => (film = { ...film, destinationId })}
                small
                testid="film-printer"
              />
            </div>
          </div>
        {/if}
        <div class="flex items-center gap-2">
          <span class="flex-1">{filmWish ? 'Film' : 'Paper'}</span>
          <div class={filmWish ? 'w-36' : 'w-28'}>
            {#if filmWish && filmPrinter}
              <Select
                label="Size of the film"
                value={filmWish.size}
                options={filmPrinter.sizes.map((value) => ({ value, words: filmSizes[value].words }))}
                onchange={(size) => (film = { ...film, size })}
                small
                testid="film-size"
              />
            {:else}
              <Select
                label="Paper"
                value={wish.paper}
                options={sheetNames.map((value: SheetName) => ({ value, words: value }))}
                onchange={(paper) => change({ paper })}
                small
                testid="print-paper"
              />
            {/if}
          </div>
          <Choice
            label="How the sheet lies"
            testid="print-lying"
            small
            value={wish.lying ? 'lying' : 'standing'}
            options={[
              { value: 'standing', words: 'Standing' },
              { value: 'lying', words: 'Lying' }
            ]}
            onchange={(value) => change({ lying: value === 'lying' })}
          />
        </div>
        <div class="flex items-center gap-2">
          <span class="flex-1">The patient</span>
          <NamesChoice small value={wish.names} onchange={(names) => change({ names })} />
        </div>
        <div class="grid grid-cols-2">
          {#if way !== 'claim'}<Switch
              checked={wish.captions}
              words="Words"
              testid="print-captions"
              onchange={(captions) => change({ captions })}
            />{/if}
          <Switch
            checked={wish.drawn}
            words="Drawings"
            testid="print-drawn"
            onchange={(drawn) => change({ drawn })}
          />
          {#if filmWish}
            <div class="flex items-center justify-between gap-2">
              <span>Copies</span>
              <div class="w-20">
                <Select
                  label="Copies of each film"
                  value={String(film.copies)}
                  options={numbers(9)}
                  onchange={(copies) => (film = { ...film, copies: Number(copies) })}
                  small
                  testid="film-copies"
                />
              </div>
            </div>
          {:else}
            <Switch
              checked={wish.inkSaving}
              words="Save ink"
              testid="print-ink"
              onchange={(inkSaving) => change({ inkSaving })}
            />
          {/if}
        </div>
      </div>
    </section>{/if}
</PaperDesk>
