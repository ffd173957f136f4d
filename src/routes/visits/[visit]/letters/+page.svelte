<script lang="ts">
  import { goto } from '$app/navigation';
  import { untrack } from 'svelte';
  import { FileText, Mail, Trash2 } from '@lucide/svelte';
  import { placeKeyWords } from '$core/anatomy/placeOfKey';
  import { carriesPapers } from '$core/parcel/destination';
  import { wantWords } from '$core/letter/letterPlace';
  import type { BeginLetterWish, LetterFilling, LetterSaid } from '$core/letter/letterView';
  import type { PicturePlace } from '$core/letter/letterPlace';
  import { shippedTemplates } from '$core/letter/shipped';
  import { again } from '$ui/net/going';
  import { momentWords } from '$ui/clock';
  import Tooltip from '$ui/kit/Tooltip.svelte';
  import AboutCard from '$ui/letter/AboutCard.svelte';
  import ColleagueForm from '$ui/letter/ColleagueForm.svelte';
  import MissingList from '$ui/letter/MissingList.svelte';
  import { ask, attempt, send } from '$ui/net/send';
  import { capital } from '$ui/words';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  const may = $derived(data.who!.may.writeLetters);
  const base = $derived(`/visits/${store.head.visitId}/letters`);
  const url = $derived(`/api${base}`);

  const choices = $derived([
    ...data.templates.map(({ templateId, name }) => ({
      key: templateId,
      name,
      of: { templateId } as BeginLetterWish['template']
    })),
    // One that the clinic made its own stands there once.
    ...shippedTemplates
      .filter(({ name }) => !data.templates.some((own) => own.name.toLowerCase() === name.toLowerCase()))
      .map(({ key, name }) => ({
        key,
        name,
        of: { shipped: key } as BeginLetterWish['template']
      }))
  ]);
  let chosen = $state('');
  const choice = $derived(choices.find(({ key }) => key === chosen) ?? choices[0]);
  // svelte-ignore state_referenced_locally
  let said = $state.raw<LetterSaid>({
    names: 'initials',
    colleagueId: data.referrer,
    reasons: data.offered.reasons,
    procedures: data.offered.procedures
  });

  /** What it would be filled with, looked at before there is a letter. */
  let would = $state.raw<{ places: PicturePlace[]; filling: LetterFilling } | null>(null);
  let asked = 0;
  const stamp = $derived(
    JSON.stringify([choice.key, said, store.pictures.map(({ pictureId, seq }) => [pictureId, seq])])
  );
  $effect(() => {
    void stamp;
    if (may) untrack(() => void look());
  });
  async function look() {
    const mine = ++asked;
    const wish: BeginLetterWish = { template: choice.of, ...said };
    await attempt(async () => {
      const found = await send<typeof would>('POST', `${url}/filling`, wish);
      if (mine === asked) would = found;
    });
  }

  let beginning = $state(false);
  async function begin() {
    beginning = true;
    await attempt(async () => {
      const { letterId } = await ask<{ letterId: string }>(url, { template: choice.of, ...said });
      await goto(`${base}/${letterId}`);
    });
    beginning = false;
  }
  async function drop(letterId: string) {
    await attempt(() => ask(`${url}/${letterId}`, {}, 'DELETE'));
    await again('yonder:letters');
  }
  let adding = $state(false);
  const places = $derived(data.destinations.filter(carriesPapers));
</script>

<main class="grid min-h-0 flex-1 grid-cols-[18rem_1fr_22rem] gap-4 px-4 pb-4">
  <section class="panel flex min-h-0 flex-col gap-3 overflow-y-auto p-5" aria-label="Letters of this visit">
    <h1 class="text-title font-bold">Letters</h1>
    <ul class="flex flex-col gap-1.5">
      {#each data.letters as { letterId, title, to, by, at } (letterId)}
        <li class="border-rule flex items-center rounded-lg border" data-testid="letter">
          <a class="min-w-0 flex-1 py-1.5 pl-3" href="{base}/{letterId}">
            <span class="block leading-tight font-semibold break-words">{title}</span>
            <span class="text-small text-ink-soft block">{to ? `to ${to}, ` : ''}{by}, {momentWords(at)}</span
            >
          </a>
          {#if may}
            <Tooltip
              words="Put {title} away"
              button="flex size-11 shrink-0 items-center justify-center rounded-lg"
              onclick={() => void drop(letterId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
            >
          {/if}
        </li>
      {:else}
        <li class="text-ink-soft">None was begun in this visit.</li>
      {/each}
    </ul>
    <a class="button mt-auto" href="/letters" data-testid="to-templates"
      ><FileText size={18} aria-hidden="true" />Templates and colleagues</a
    >
  </section>
  {#if may}
    <section class="panel flex min-h-0 flex-col gap-3 overflow-y-auto p-5" aria-label="Begin a letter">
      <h2 class="text-title font-bold">A new letter</h2>
      <div role="radiogroup" aria-label="It begins with" class="grid grid-cols-2 gap-2">
        {#each choices as { key, name } (key)}
          <label
            class="border-rule has-checked:border-coral has-checked:bg-coral-wash flex min-h-12 items-center gap-3 rounded-lg border px-3 leading-tight font-semibold"
          >
            <input
              type="radio"
              name="template"
              value={key}
              checked={choice.key === key}
              onchange={() => (chosen = key)}
              class="accent-ink size-5 shrink-0"
              data-testid="choose-{key}"
            />
            <span class="min-w-0 break-words">{name}</span>
          </label>
        {/each}
      </div>
      <h3 class="heading mt-1">Its pictures</h3>
      <ul class="grid grid-cols-3 gap-3" data-testid="would-take">
        {#each would?.places ?? [] as place, i (place.id)}
          {@const filled = would?.filling.places[place.id]}
          <li class="leading-tight">
            {#if filled}
              <img src={filled.preview} alt="" class="bg-stage h-28 w-full rounded-md object-contain" />
            {:else}
              <div
                class="bg-brass-wash border-brass text-brass flex h-28 w-full items-center justify-center rounded-md border-2 border-dashed font-semibold"
              >
                Empty
              </div>
            {/if}
            <span class="text-small"
              >{i + 1}. {filled
                ? filled.caption
                : capital(wantWords(place.want, (key) => placeKeyWords(key, data.who!.notation)))}</span
            >
          </li>
        {:else}
          <li class="text-ink-soft col-span-3">{would ? 'It has no place for a picture.' : 'Looking …'}</li>
        {/each}
      </ul>
    </section>
    <section class="panel flex min-h-0 flex-col gap-4 overflow-y-auto p-5" aria-label="What it is about">
      <AboutCard
        {said}
        offered={data.offered}
        colleagues={data.colleagues}
        onchange={(next) => (said = next)}
        onnew={() => (adding = true)}
      />
      {#if would && would.filling.missing.length > 0}
        <div>
          <h3 class="heading">Not there yet</h3>
          <MissingList missing={would.filling.missing} />
        </div>
      {/if}
      <button
        class="button main mt-auto shrink-0"
        disabled={beginning}
        onclick={begin}
        data-testid="letter-begin"><Mail size={18} aria-hidden="true" />Write it</button
      >
    </section>
  {:else}
    <p class="panel col-span-2 p-6">Whoever treats patients or sits at the front desk writes letters.</p>
  {/if}
</main>
<ColleagueForm
  bind:open={adding}
  colleague={null}
  destinations={places}
  onkept={async ({ colleagueId }) => {
    await again('yonder:letters');
    said = { ...said, colleagueId };
  }}
/>
