<script lang="ts">
  import { untrack } from 'svelte';
  import { whenWords } from '../clock';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt, send } from '../net/send';
  import { countWords } from '../words';

  /** The system that the day's appointments come from. */
  interface Props {
    practice: {
      name: string;
      url: string;
      heardAt: string | null;
      problem: string;
      unplaced: number;
    } | null;
    onkept: () => void;
  }
  let { practice, onkept }: Props = $props();
  let name = $state(untrack(() => practice?.name ?? ''));
  let url = $state(untrack(() => practice?.url ?? ''));
  let said = $state<{ well: boolean; words: string } | null>(null);
  const changed = $derived(name.trim() !== (practice?.name ?? '') || url.trim() !== (practice?.url ?? ''));

  const heard = $derived(
    !practice
      ? ''
      : practice.problem
        ? `${practice.problem} ${practice.heardAt ? `Its last list is of ${whenWords(practice.heardAt)}.` : 'No list has come from it yet.'}`
        : practice.heardAt
          ? `Its list came last at ${whenWords(practice.heardAt)}${practice.unplaced > 0 ? `; ${countWords(practice.unplaced, 'appointment', 'appointments')} could not be placed: no such room here, or a number that is somebody else’s` : ''}.`
          : 'It is asked within the minute.'
  );
  async function tryIt() {
    said = { well: true, words: 'Asking…' };
    let answered: { well: boolean; words: string } | null = null;
    await attempt(async () => {
      answered = await send<{ well: boolean; words: string }>('POST', '/api/practice/try', {
        url: url.trim()
      });
    });
    said = answered;
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    if (await attempt(() => ask('/api/practice', { name: name.trim(), url: url.trim() }))) onkept();
  }
  async function drop() {
    if (!(await attempt(() => ask('/api/practice', {}, 'DELETE')))) return;
    [name, url, said] = ['', '', null];
    onkept();
  }
</script>

<section class="panel p-6" aria-labelledby="practice" data-testid="practice">
  <h2 id="practice" class="text-lead font-bold">Practice system</h2>
  <p class="text-ink-soft mb-3">
    Where appointments and new patients come from, and which is told of what was taken. It speaks FHIR, and
    finds rooms by their names.
  </p>
  {#if practice}
    <p
      class="mb-4 rounded-lg px-3 py-2 font-semibold {practice.problem || practice.unplaced > 0
        ? 'bg-brass-wash text-brass'
        : 'bg-lagoon-wash text-lagoon'}"
      data-testid="practice-heard"
    >
      {heard}
    </p>
  {/if}
  <form onsubmit={keep} class="flex flex-col gap-3">
    <TextField label="Name" bind:value={name} most={60} example="Front desk" testid="practice-name" />
    <TextField
      label="Address"
      bind:value={url}
      most={500}
      example="http://practice.house:8080/fhir"
      testid="practice-url"
    />
    <div class="flex flex-wrap items-center gap-2">
      <button
        class="button main"
        disabled={!changed || name.trim() === '' || url.trim() === ''}
        data-testid="practice-keep">{practice ? 'Keep' : 'Begin asking it'}</button
      >
      <button
        type="button"
        class="button"
        disabled={url.trim() === ''}
        onclick={() => void tryIt()}
        data-testid="practice-try">Ask for today</button
      >
      {#if practice}
        <button
          type="button"
          class="button quiet ml-auto"
          onclick={() => void drop()}
          data-testid="practice-drop">Ask no more</button
        >
      {/if}
    </div>
  </form>
  <p
    class="mt-3 font-semibold {said && !said.well ? 'text-brass' : 'text-lagoon'}"
    role="status"
    data-testid="practice-said"
  >
    {said?.words ?? ''}
  </p>
  {#if practice}<p class="text-small text-ink-soft">
      When it is asked no more, appointments that came from it stay.
    </p>{/if}
</section>
