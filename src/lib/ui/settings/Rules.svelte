<script lang="ts">
  import { Trash2 } from '@lucide/svelte';
  import { type LeavingRule, ruleWords, usualRule } from '$core/deidentify/rule';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Switch from '../kit/Switch.svelte';
  import TextField from '../kit/TextField.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import { ask, attempt } from '../net/send';

  interface Named {
    ruleId: string;
    name: string;
    rule: LeavingRule;
  }
  interface Unveiled {
    name: string;
    rule: string;
    patientId: string;
    patient: string;
    recordNumber: string;
  }
  let { rules, mayChange, onkept }: { rules: Named[]; mayChange: boolean; onkept: () => void } = $props();
  /** What goes along only with names taken out of it. */
  const cleanable = [
    { part: 'words', words: 'Keep descriptions, without names' },
    { part: 'graphics', words: 'Keep drawings, without names' },
    { part: 'structured', words: 'Keep readings, without names' }
  ] as const;
  let open = $state(false);
  let ruleId = $state<string | null>(null);
  let name = $state('');
  let rule = $state<LeavingRule>({ ...usualRule });
  let asked = $state('');
  let found = $state.raw<Unveiled[] | null>(null);

  function edit(of: Named | null) {
    ruleId = of?.ruleId ?? null;
    name = of?.name ?? '';
    rule = { ...(of?.rule ?? usualRule) };
    open = true;
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const wish = { ...(ruleId ? { ruleId } : {}), name, rule: $state.snapshot(rule) };
    if (await attempt(() => ask('/api/rules', wish))) {
      open = false;
      onkept();
    }
  }
  const drop = (id: string) =>
    attempt(async () => {
      await ask(`/api/rules/${id}`, {}, 'DELETE');
      onkept();
    });
  const lookUp = (event: SubmitEvent) => {
    event.preventDefault();
    return attempt(async () => {
      found = (await ask<{ found: Unveiled[] }>('/api/pseudonyms', { pseudonym: asked })).found;
    });
  };
</script>

<section class="panel p-6" aria-labelledby="rules" data-testid="rules">
  <h2 id="rules" class="text-lead font-bold">De-identification</h2>
  <p class="text-ink-soft mb-3">
    Named rules by which pictures leave without their identity: the basic profile of DICOM PS3.15 Annex E and
    what of its options is kept. A file’s private attributes never leave; faces are not looked for.
  </p>
  <ul class="grid gap-2 lg:grid-cols-3">
    {#each rules as each, i (each.ruleId)}
      <li class="border-rule flex flex-col rounded-lg border p-4" data-testid="rule-card">
        <div class="flex items-start justify-between gap-2">
          <span class="font-bold">{each.name}</span>
          {#if mayChange && i > 0}
            <Tooltip
              words="Take {each.name} out of use"
              button="-mt-2 -mr-2 flex size-11 items-center justify-center rounded-lg"
              onclick={() => void drop(each.ruleId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
            >
          {/if}
        </div>
        {#each ruleWords(each.rule) as line (line)}<p class="text-small">{line}</p>{/each}
        {#if mayChange}<button class="button mt-auto self-start" onclick={() => edit(each)}>Change</button
          >{/if}
      </li>
    {/each}
  </ul>
  {#if mayChange}
    <div class="border-rule mt-4 flex flex-wrap items-end justify-between gap-4 border-t pt-4">
      <button class="button main" onclick={() => edit(null)} data-testid="new-rule">New rule</button>
      <form class="flex items-end gap-2" onsubmit={lookUp}>
        <TextField
          label="Who is behind a pseudonym"
          bind:value={asked}
          most={40}
          example="YT-…"
          testid="pseudonym-asked"
        />
        <button class="button" disabled={asked.trim().length < 3}>Look up</button>
      </form>
    </div>
    {#if found}
      <ul class="mt-3" role="status" data-testid="pseudonym-found">
        {#each found as each (each.patientId + each.rule)}
          <li>
            <strong>{each.name}</strong> is
            <a class="font-semibold underline" href="/patients/{each.patientId}"
              >{each.patient}, {each.recordNumber}</a
            >, by the rule {each.rule || 'of before'}. This was written into the audit.
          </li>
        {:else}<li class="text-ink-soft">Nobody has this pseudonym.</li>{/each}
      </ul>
    {/if}
  {/if}
</section>

<Dialog bind:open title={ruleId ? 'Change the rule' : 'A new rule'} wide>
  <form class="flex flex-col gap-4" onsubmit={keep}>
    <TextField label="Name" bind:value={name} most={60} first testid="rule-name" />
    <div class="grid gap-4 sm:grid-cols-2">
      <div>
        <span class="heading mb-1 block">Dates</span>
        <Choice
          label="Dates"
          bind:value={rule.dates}
          options={[
            { value: 'removed', words: 'Taken out' },
            { value: 'moved', words: 'Moved' },
            { value: 'kept', words: 'Kept' }
          ]}
          testid="rule-dates"
        />
      </div>
      {#if rule.dates === 'moved'}
        <div>
          <span class="heading mb-1 block">Times of day</span>
          <Choice
            label="Times of day"
            bind:value={rule.times}
            options={[
              { value: 'moved', words: 'Moved with them' },
              { value: 'noon', words: 'All noon' }
            ]}
          />
        </div>
      {/if}
      <div>
        <span class="heading mb-1 block">UIDs</span>
        <Choice
          label="UIDs"
          bind:value={rule.uids}
          options={[
            { value: 'replaced', words: 'Replaced' },
            { value: 'kept', words: 'Kept' }
          ]}
        />
      </div>
    </div>
    <div class="grid gap-x-4 sm:grid-cols-2">
      <Switch
        bind:checked={rule.characteristics}
        words="Keep sex, age, size, species"
        testid="rule-characteristics"
      />
      <Switch bind:checked={rule.device} words="Keep the device" />
      <Switch bind:checked={rule.institution} words="Keep the clinic" />
      {#each cleanable as { part, words } (part)}
        <Switch
          bind:checked={() => rule[part] === 'cleaned', (is) => (rule[part] = is ? 'cleaned' : 'dropped')}
          {words}
        />
      {/each}
      {#if rule.graphics === 'cleaned'}
        <Switch
          bind:checked={rule.safePrivate}
          words="Let drawings be read back as readings (safe private)"
          testid="rule-safe-private"
        />
      {/if}
    </div>
    <p class="bg-tray rounded-lg p-3">{ruleWords(rule).join(' ')}</p>
    <button class="button main self-end" disabled={name.trim() === ''} data-testid="keep-rule"
      >Keep the rule</button
    >
  </form>
</Dialog>
