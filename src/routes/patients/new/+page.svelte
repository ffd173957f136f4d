<script lang="ts">
  import { goto } from '$app/navigation';
  import { TriangleAlert } from '@lucide/svelte';
  import { page } from '$app/state';
  import { daysMeant } from '$core/people/birthDates';
  import type { FoundPatient } from '$core/people/foundPatient';
  import { dateWords } from '$ui/clock';
  import Choice from '$ui/kit/Choice.svelte';
  import Select from '$ui/kit/Select.svelte';
  import { Refused, ask, attempt, send } from '$ui/net/send';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let kind = $state<'person' | 'animal'>('person');
  // What was looked for in vain is most of what has to be entered.
  const typed = page.url.searchParams.get('words')?.split(/\s+/).filter(Boolean) ?? [];
  const words = typed.filter((word) => /^\p{L}/u.test(word));
  let given = $state(words[0] ?? '');
  let family = $state(words.slice(1).join(' '));
  let born = $state(typed.find((word) => daysMeant(word, new Date().getFullYear()).length > 0) ?? '');
  let sex = $state<'' | 'F' | 'M' | 'O'>('');
  let [number, national, species, breed, owner, alert] = $state(['', '', '', '', '', '']);

  const days = $derived(daysMeant(born, new Date().getFullYear()));
  /** Of two days that could be meant, the one that was picked. */
  let pickedDay = $state('');
  const birthDate = $derived(
    days.length > 1 ? (days.includes(pickedDay) ? pickedDay : null) : (days[0] ?? null)
  );
  const bornDoubt = $derived(
    born.trim() === ''
      ? ''
      : days.length === 0
        ? 'This is no day. Write it as 14.3.1987.'
        : days.length > 1 && birthDate === null
          ? 'Day and month could be either.'
          : ''
  );
  const patient = $derived({
    kind,
    givenName: given,
    familyName: kind === 'person' ? family : '',
    birthDate,
    sex,
    recordNumber: number,
    nationalNumber: kind === 'person' ? national : '',
    species: kind === 'animal' ? species || null : null,
    breed: kind === 'animal' ? breed || null : null,
    owner: kind === 'animal' ? owner || null : null,
    alert: alert || null
  });
  const missing = $derived(
    kind === 'person'
      ? given.trim() === '' || family.trim() === ''
        ? 'A first and a family name are needed.'
        : birthDate === null && number.trim() === '' && national.trim() === ''
          ? 'A birth date, a record number or a national number is needed.'
          : ''
      : number.trim() === '' || species.trim() === ''
        ? 'A record number and a species are needed.'
        : ''
  );

  /** Who it may be already is looked for while one types. */
  let doubles = $state.raw<FoundPatient[]>([]);
  $effect(() => {
    const asked = patient;
    if (missing !== '') {
      doubles = [];
      return;
    }
    const timer = setTimeout(async () => {
      try {
        doubles = (await send<{ doubles: FoundPatient[] }>('POST', '/api/patients/doubles', asked)).doubles;
      } catch (error) {
        if (!(error instanceof Refused)) throw error;
      }
    }, 250);
    return () => clearTimeout(timer);
  });

  async function enter(event: SubmitEvent) {
    event.preventDefault();
    if (missing !== '' || bornDoubt !== '') return;
    await attempt(async () => {
      const wish = { patient, somebodyElse: doubles.length > 0 };
      const made = await ask<{ patientId: string }>('/api/patients', wish);
      await goto(`/patients/${made.patientId}`);
    });
  }
</script>

{#snippet field(label: string, value: string, set: (value: string) => void, testid: string, hint = '')}
  <label class="min-w-0 flex-1"
    ><span class="text-small font-semibold">{label}</span>
    <input
      {value}
      oninput={(event) => set(event.currentTarget.value)}
      placeholder={hint}
      maxlength="120"
      autocomplete="off"
      class="border-rule bg-paper mt-0.5 min-h-11 w-full rounded-lg border px-3"
      data-testid={testid}
    /></label
  >
{/snippet}

<svelte:head><title>A new patient · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto grid max-w-6xl items-start gap-4 px-6 pt-4 pb-8 lg:grid-cols-[3fr_2fr]">
  <form onsubmit={enter} class="panel flex flex-col gap-4 p-6">
    <div class="flex items-center justify-between">
      <h1 class="text-title font-bold">A new patient</h1>
      <Choice
        label="Person or animal"
        bind:value={kind}
        testid="kind"
        options={[
          { value: 'person', words: 'A person' },
          { value: 'animal', words: 'An animal' }
        ]}
      />
    </div>
    <div class="flex gap-3">
      {@render field(kind === 'person' ? 'First name' : 'Name', given, (value) => (given = value), 'given')}
      {#if kind === 'person'}{@render field('Family name', family, (value) => (family = value), 'family')}
      {:else}{@render field(
          'Species',
          species,
          (value) => (species = value),
          'species',
          'dog, cat, pony'
        )}{/if}
    </div>
    {#if kind === 'animal'}
      <div class="flex gap-3">
        {@render field('Owner', owner, (value) => (owner = value), 'owner')}
        {@render field('Breed', breed, (value) => (breed = value), 'breed')}
      </div>
    {/if}
    <div class="flex gap-3">
      {@render field('Born', born, (value) => (born = value), 'born', '14.3.1987')}
      <div class="w-44">
        <span class="text-small font-semibold" aria-hidden="true">Sex</span>
        <div class="mt-0.5">
          <Select
            label="Sex"
            bind:value={sex}
            options={[
              { value: '', words: 'Not said' },
              { value: 'F', words: 'Female' },
              { value: 'M', words: 'Male' },
              { value: 'O', words: 'Other' }
            ]}
          />
        </div>
      </div>
    </div>
    {#if days.length > 1}
      <Choice
        label="Which day is meant"
        bind:value={pickedDay}
        options={days.map((day) => ({ value: day, words: dateWords(day) }))}
      />
    {/if}
    {#if bornDoubt}<p class="text-brass font-semibold" role="status">{bornDoubt}</p>{/if}
    <div class="flex gap-3">
      {@render field('Record number', number, (value) => (number = value), 'number')}
      {#if kind === 'person'}
        {@render field('National number', national, (value) => (national = value), 'national')}
      {/if}
    </div>
    {@render field('Alert', alert, (value) => (alert = value), 'alert', 'Latex allergy')}
    <div class="flex items-center gap-4">
      <button class="button main px-6" disabled={missing !== '' || bornDoubt !== ''} data-testid="enter"
        >{doubles.length > 0 ? 'It is somebody else: enter' : 'Enter'}</button
      >
      {#if missing}<p class="text-ink-soft">{missing}</p>{/if}
    </div>
  </form>
  <section class="panel p-6" aria-labelledby="doubles" aria-live="polite">
    <h2 id="doubles" class="text-lead font-bold">Already here?</h2>
    {#if doubles.length === 0}
      <p class="text-ink-soft mt-1">Whoever may be the same patient is shown here while you type.</p>
    {:else}
      <ul class="mt-3 flex flex-col gap-2">
        {#each doubles as double (double.patientId)}
          <li class="border-brass bg-brass-wash rounded-lg border-2 px-4 py-3" data-testid="double">
            <p class="text-lead font-bold">{double.name}</p>
            <p>
              {[
                double.recordNumber,
                double.birthDate ? dateWords(double.birthDate) : '',
                double.species ?? '',
                double.owner ? `owner ${double.owner}` : ''
              ]
                .filter(Boolean)
                .join(' · ')}
            </p>
            <p class="text-brass mt-1 flex items-center gap-2 font-semibold">
              <TriangleAlert size={18} class="shrink-0" aria-hidden="true" />{double.why.join(', ')}
            </p>
            <a class="button mt-2" href="/patients/{double.patientId}">Open this chart</a>
          </li>
        {/each}
      </ul>
    {/if}
  </section>
</main>
