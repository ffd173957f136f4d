<script lang="ts">
  import { type Infer, type SuperValidated, superForm } from 'sveltekit-superforms';
  import { showTooth } from '$core/anatomy/teeth';
  import type { settingsForm } from '$lib/server/clinics/settings';
  import { inWords } from '$core/measurement/inWords';
  import { dateInWords, zoneWords } from '$core/time/clinicTime';
  import { notationNames, notations } from '$core/anatomy/teeth';
  import { languageName, languages, plainLanguage } from '$core/time/language';
  import { todayAtClinic } from '../clock';
  import { again } from '../net/going';
  import Combobox from '../kit/Combobox.svelte';
  import Select from '../kit/Select.svelte';

  /**
   * How teeth, dates and numbers are written, by which clock the clinic lives, and how long what was deleted can be
   * brought back.
   */
  interface Props {
    form: SuperValidated<Infer<typeof settingsForm>>;
    timeZones: readonly string[];
    mayChange: boolean;
  }
  let { form: given, timeZones, mayChange }: Props = $props();
  /** What came of keeping it; it stays while the page is fetched again. */
  let said = $state('');
  // svelte-ignore state_referenced_locally
  const { form, errors, enhance } = superForm(given, {
    resetForm: false,
    invalidateAll: false,
    onUpdated: ({ form: kept }) => {
      said = kept.message ?? '';
      if (kept.valid) void again();
    }
  });
  const choices = notations.map((value) => ({ value, name: notationNames[value] }));

  let typed = $state('');
  const zonesShown = 40;
  const zones = $derived(
    timeZones
      .filter((zone) => zoneWords(zone).toLowerCase().includes(typed.trim().toLowerCase()))
      .slice(0, zonesShown)
      .map((zone) => ({ value: zone, words: zoneWords(zone), detail: clockIn(zone) }))
  );
  const reading = { value: 12.4, plusMinus: 0.3, unit: 'mm' } as const;
  const written = (language: string = plainLanguage) =>
    `${dateInWords(todayAtClinic(), language)} and ${inWords(reading, language)}`;
  const clockIn = (timeZone: string) =>
    new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit', timeZone }).format(new Date());
</script>

{#snippet kept(name: 'binDays' | 'putAwayDays', words: string, testid: string)}
  <label class="mt-1.5 flex items-center gap-3">
    <span class="text-ink-soft min-w-0 flex-1">{words}</span>
    <input
      type="number"
      {name}
      min="7"
      max="3650"
      class="border-rule bg-paper min-h-11 w-24 rounded-lg border px-3"
      bind:value={$form[name]}
      data-testid={testid}
    />
    <span class="text-ink-soft">days</span>
  </label>
  {#if $errors[name]}<p class="text-coral text-small mt-1 font-semibold">{$errors[name]![0]}</p>{/if}
{/snippet}
<form method="POST" use:enhance class="panel flex flex-col gap-5 p-6">
  <fieldset disabled={!mayChange}>
    <legend class="text-lead mb-3 font-bold">Teeth are written in</legend>
    <div class="flex flex-col gap-2">
      {#each choices as { value, name: words } (value)}
        <label
          class="border-rule has-checked:border-coral has-checked:bg-coral-wash flex min-h-12 items-center gap-3 rounded-lg border px-4"
        >
          <input type="radio" name="notation" {value} bind:group={$form.notation} class="accent-ink size-5" />
          <span class="font-semibold">{words}</span>
          <span class="text-ink-soft ml-auto">upper right first molar: {showTooth(16, value)}</span>
        </label>
      {/each}
    </div>
  </fieldset>
  <fieldset disabled={!mayChange}>
    <legend class="text-lead mb-1 font-bold">The clinic’s time</legend>
    <p class="text-ink-soft mb-2">
      <strong class="text-ink" data-testid="time-zone">{zoneWords($form.timeZone)}</strong>, where it is
      {clockIn($form.timeZone)} now. Days, times on pictures and papers follow it.
    </p>
    <input type="hidden" name="timeZone" value={$form.timeZone} />
    {#if mayChange}
      <Combobox
        label="Another time zone"
        options={zones}
        bind:typed
        nothing="No time zone by this name."
        testid="zone"
        onchoose={(zone) => {
          $form.timeZone = zone;
          typed = '';
        }}
      />
    {/if}
  </fieldset>
  <fieldset disabled={!mayChange}>
    <legend class="text-lead mb-1 font-bold">Dates and numbers</legend>
    <p class="text-ink-soft mb-2">
      Written as <strong class="text-ink" data-testid="written">{written($form.language)}</strong>, here and
      on papers, films and letters. Files for other systems keep the standard’s own form.
    </p>
    <input type="hidden" name="language" value={$form.language} />
    {#if mayChange}
      <Select
        label="What dates and numbers are written in"
        options={languages.map((each) => ({
          value: each,
          words: languageName(each),
          detail: dateInWords(todayAtClinic(), each)
        }))}
        value={$form.language ?? plainLanguage}
        onchange={(chosen) => ($form.language = chosen)}
        testid="language"
      />
    {/if}
  </fieldset>
  <fieldset disabled={!mayChange}>
    <legend class="text-lead mb-1 font-bold">What was thrown away</legend>
    {@render kept('binDays', 'A deleted picture can be brought back into its chart for', 'bin-days')}
    {@render kept('putAwayDays', 'What was put away in Arrivals can be brought back for', 'put-away-days')}
    <p class="text-ink-soft mt-1">
      Then it is removed for good; but exposures that lie in Arrivals never are.
    </p>
  </fieldset>
  {#if mayChange}<button class="button main">Save</button>{:else}<p class="text-small text-ink-soft">
      An administrator changes this.
    </p>{/if}
  {#if said}<p role="status" class="text-lagoon font-semibold">{said}</p>{/if}
</form>
