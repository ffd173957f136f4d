<script lang="ts">
  import type { Snippet } from 'svelte';
  import { momentWords } from '../clock';
  import Select from '../kit/Select.svelte';
  import { sendOr } from '../net/send';
  import FindPerson from './FindPerson.svelte';
  import type { PickedPatient } from './pickedPatient';

  interface Props {
    whom: PickedPatient | null;
    visitId: string;
    /** What is looked for at first. */
    typed?: string;
    /** A visit that can't be meant. */
    except?: string;
    /** Stands above the search while nobody is picked. */
    before?: Snippet<[(person: PickedPatient, visitId: string) => void]>;
  }
  let {
    whom = $bindable(),
    visitId = $bindable(),
    typed = $bindable(''),
    except = '',
    before
  }: Props = $props();
  let visits = $state.raw<{ visitId: string; openedAt: string; room: string }[]>([]);

  async function choose(person: PickedPatient, its: string) {
    whom = person;
    const url = `/api/patients/${person.patientId}/visits`;
    const answer = await sendOr<{ visits: typeof visits }>(url, { visits: [] });
    visits = answer.visits.filter((each) => each.visitId !== except);
    visitId = its || (visits[0]?.visitId ?? '');
  }
</script>

{#if whom}
  <div class="border-rule bg-paper flex items-start gap-2 rounded-lg border px-3 py-2">
    <p class="min-w-0 flex-1" data-testid="whom">
      <span class="text-lead block font-bold">{whom.name}</span>
      <span class="text-small text-ink-soft">{whom.detail}</span>
    </p>
    <button
      class="button text-small px-3"
      type="button"
      onclick={() => {
        whom = null;
        visitId = '';
      }}>Another</button
    >
  </div>
  {#if visits.length === 0}
    <p class="text-ink-soft">
      No {except ? 'other ' : ''}visit yet. Open one from the chart, then come back here.
      <a class="font-semibold underline" href="/patients/{whom.patientId}">To the chart</a>
    </p>
  {:else}
    <Select
      label="Visit"
      bind:value={visitId}
      testid="visit"
      options={visits.map((each) => ({
        value: each.visitId,
        words: momentWords(each.openedAt),
        detail: each.room
      }))}
    />
  {/if}
{:else}
  {@render before?.((person, its) => void choose(person, its))}
  <FindPerson
    bind:typed
    onpick={({ patientId, name }, detail) => void choose({ patientId, name, detail }, '')}
  />
{/if}
