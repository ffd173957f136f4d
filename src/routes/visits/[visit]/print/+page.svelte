<script lang="ts">
  import { page } from '$app/state';
  import { type SheetName, sheetNames } from '$core/print/paper';
  import { type PrintWay, type PrintWish, plainPrint } from '$core/print/printWish';
  import { trueSize } from '$core/print/trueSize';
  import { pictureName } from '$core/picture/pictureView';
  import { dayWords } from '$ui/clock';
  import Choice from '$ui/kit/Choice.svelte';
  import Select from '$ui/kit/Select.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import Tick from '$ui/kit/Tick.svelte';
  import Small from '$ui/pictures/Small.svelte';
  import { fetchPaper } from '$ui/report/fetchPaper';
  import NamesChoice from '$ui/report/NamesChoice.svelte';
  import PaperDesk from '$ui/report/PaperDesk.svelte';
  import Printers from '$ui/report/Printers.svelte';
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
        return JSON.parse(localStorage.getItem(remembered) ?? '{}') as Partial<PrintWish>;
      } catch {
        return {};
      }
    })();
    return {
      ...plainPrint,
      ...before,
      printerId: data.printers.some(({ printerId }) => printerId === before.printerId)
        ? before.printerId!
        : null,
      names: 'initials',
      way: asked ? 'true' : before.way === 'true' ? 'grid' : (before.way ?? 'grid'),
      // What one picture at its true size wants is told by the picture, not by the last sheet.
      lying: !asked && (before.lying ?? false),
      pictureIds: asked ? [asked] : standing
    };
  }
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
      localStorage.setItem(remembered, JSON.stringify(rest));
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
  const ways: { value: PrintWay; words: string }[] = [
    { value: 'true', words: 'True to scale' },
    { value: 'grid', words: 'In rows' },
    { value: 'tray', words: 'As on the tray' }
  ];
  const numbers = (most: number) =>
    Array.from({ length: most }, (_, i) => ({ value: String(i + 1), words: String(i + 1) }));
  const stamp = $derived(
    JSON.stringify([wish, begunOnce, store.pictures.map(({ seq }) => seq), data.printers])
  );
</script>

<PaperDesk
  what="print"
  called="This print"
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
  make={(signal) => fetchPaper(`/api/visits/${visitId}/print`, signal, wish)}
>
  <section class="panel flex min-h-0 flex-col p-5" aria-label="What is printed">
    <h1 class="text-title mb-3 font-bold">Print</h1>
    <Choice
      label="How"
      testid="print-way"
      small
      value={wish.way}
      options={ways}
      onchange={(way) => change({ way, lying: way === 'tray' })}
    />
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <ul
      class="-mx-1 mt-3 flex min-h-24 flex-1 flex-col gap-1 overflow-y-auto px-1"
      tabindex="0"
      aria-label="Its pictures"
      data-testid="print-pictures"
    >
      {#each offered as picture (picture.pictureId)}
        {@const name = pictureName(picture)}
        {@const size = wish.way === 'true' ? trueSize(picture) : null}
        <li class="border-rule bg-sheet flex items-center gap-2 rounded-lg border pr-3">
          <Tick
            checked={chosen.has(picture.pictureId)}
            label="Print {name}"
            testid="print-picture"
            onchange={(into) => put(picture.pictureId, into)}
          />
          <Small {picture} alt="" frame="h-12 w-14 shrink-0 rounded" />
          <span class="min-w-0 flex-1 leading-tight">
            <span class="block font-semibold">{name}</span>
            {#if wish.way === 'true'}
              <span class="text-small block {size ? 'text-ink-soft' : 'text-brass font-semibold'}"
                >{size
                  ? `${size.width.toFixed(0)} × ${size.height.toFixed(0)} mm, ± ${(100 * size.plusMinusShare).toFixed(1)} %`
                  : 'has no scale'}</span
              >
            {/if}
          </span>
        </li>
      {/each}
    </ul>
    <div class="border-rule mt-3 flex flex-col gap-1 border-t pt-3">
      {#if wish.way === 'grid'}
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
              value={String(wish.down)}
              options={numbers(8)}
              onchange={(value) => change({ down: Number(value) })}
              small
              testid="print-down"
            />
          </div>
        </div>
      {:else if wish.way === 'true'}
        <Printers
          printers={data.printers}
          printerId={wish.printerId}
          onchange={(printerId) => change({ printerId })}
        />
      {/if}
      <div class="flex items-center gap-2">
        <span class="flex-1">Paper</span>
        <div class="w-28">
          <Select
            label="Paper"
            value={wish.paper}
            options={sheetNames.map((value: SheetName) => ({ value, words: value }))}
            onchange={(paper) => change({ paper })}
            small
            testid="print-paper"
          />
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
        <Switch
          checked={wish.captions}
          words="Words"
          testid="print-captions"
          onchange={(captions) => change({ captions })}
        />
        <Switch
          checked={wish.drawn}
          words="Drawings"
          testid="print-drawn"
          onchange={(drawn) => change({ drawn })}
        />
        <Switch
          checked={wish.inkSaving}
          words="Save ink"
          testid="print-ink"
          onchange={(inkSaving) => change({ inkSaving })}
        />
      </div>
    </div>
  </section>
</PaperDesk>
