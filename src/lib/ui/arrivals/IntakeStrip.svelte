<script lang="ts">
  import { ChevronDown } from '@lucide/svelte';
  import { type IntakeLine, type IntakeView, outcomeWords, progressWords } from '$core/arrivals/intakeView';
  import Dialog from '../kit/Dialog.svelte';
  import { dateWords } from '../clock';
  import { ask, attempt, sendOr } from '../net/send';
  import { uploads } from './uploads.svelte';

  let { intakes }: { intakes: readonly IntakeView[] } = $props();
  const going = $derived(intakes.filter(({ endedAt, source }) => endedAt === null && source !== 'mail'));
  /** What ended lately and left something out: a person should know. */
  const told = $derived(
    intakes.filter(({ endedAt, refused, known }) => endedAt !== null && refused + known > 0).slice(0, 3)
  );
  let looked = $state.raw<IntakeView | null>(null);
  let open = $state(false);
  let lines = $state.raw<IntakeLine[] | null>(null);

  async function look(intake: IntakeView) {
    looked = intake;
    open = true;
    lines = null;
    lines = (await sendOr<{ lines: IntakeLine[] }>(`/api/intakes/${intake.intakeId}`, { lines: [] })).lines;
  }
  function stop(intakeId: string) {
    if (uploads.intakeId === intakeId) uploads.stop();
    else void attempt(() => ask(`/api/intakes/${intakeId}`, { kind: 'cancel' }));
  }
  const share = ({ said, kept, known, refused }: IntakeView) =>
    said ? Math.min(1, (kept + known + refused) / said) : 0;
</script>

{#if going.length + told.length > 0}
  <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
  <div
    class="flex max-h-1/2 shrink-0 flex-col overflow-y-auto"
    role="region"
    aria-label="What comes in"
    tabindex="0"
  >
    {#each going as each (each.intakeId)}
      {@const mine = uploads.intakeId === each.intakeId}
      <div
        class="border-rule bg-paper text-small mx-2 mb-2 rounded-lg border px-3 py-2"
        data-testid="intake-going"
      >
        <p class="flex items-center gap-2">
          <span class="min-w-0 flex-1 truncate font-semibold">{each.from}</span>
          <button
            class="button text-small min-h-9 px-2.5"
            onclick={() => stop(each.intakeId)}
            data-testid="stop-intake">Stop</button
          >
        </p>
        <progress value={share(each)} class="h-1.5 w-full" aria-label="How much of {each.from} has been read"
        ></progress>
        <p class="text-ink-soft" aria-live="polite">
          {progressWords(each)}{mine && uploads.rate > 0
            ? `, ${Math.max(1, Math.round(uploads.rate))} a second`
            : ''}
        </p>
        {#if each.coming.length > 0}
          <ul
            class="border-rule mt-1.5 flex flex-col gap-1 border-t pt-1.5"
            aria-label="What {each.from} holds"
            data-testid="coming"
          >
            {#each each.coming as { key, name, id, birthDate, date, description, files, here } (key)}
              <li class="flex items-baseline gap-2 leading-tight">
                <span class="min-w-0 flex-1">
                  <span class="block truncate font-semibold">{name || id || 'Without a name'}</span>
                  <span class="text-ink-soft block truncate"
                    >{[birthDate && `born ${dateWords(birthDate)}`, description || (date && dateWords(date))]
                      .filter(Boolean)
                      .join(' · ')}</span
                  >
                </span>
                <span class="text-ink-soft shrink-0 tabular-nums">{here} of {files}</span>
              </li>
            {/each}
          </ul>
        {/if}
      </div>
    {/each}
    {#each told as each (each.intakeId)}
      <button
        class="text-small hover:bg-tray mx-2 mb-1 flex items-center gap-2 rounded-lg px-3 py-1.5 text-left leading-tight"
        onclick={() => void look(each)}
        data-testid="intake-told"
      >
        <span class="min-w-0 flex-1">
          <span class="block truncate font-semibold">{each.from}{each.cancelled ? ', stopped' : ''}</span>
          <span class={each.refused > 0 ? 'text-brass' : 'text-ink-soft'}>{outcomeWords(each)}</span>
        </span>
        <ChevronDown size={16} class="shrink-0 -rotate-90" aria-hidden="true" />
      </button>
    {/each}
  </div>
{/if}

<Dialog bind:open title={looked?.from ?? ''} message={looked ? outcomeWords(looked) : ''} wide>
  <ul class="flex flex-col gap-1.5" data-testid="intake-lines">
    {#if lines === null}<li class="text-ink-soft">Fetching.</li>{/if}
    {#each lines ?? [] as line, i (i)}
      <li class="border-rule rounded-lg border px-3 py-2">
        <p class="font-semibold break-words">{line.name}</p>
        <p class="text-small {line.outcome === 'refused' ? 'text-brass' : 'text-ink-soft'}">{line.words}</p>
      </li>
    {/each}
  </ul>
</Dialog>
