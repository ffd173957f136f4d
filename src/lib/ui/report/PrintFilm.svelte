<script lang="ts">
  import { Film } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import type { FilmWish } from '$core/print/filmWish';
  import Dialog from '../kit/Dialog.svelte';
  import { ask, attempt } from '../net/send';
  import { theVisit } from '../visit/visitStore.svelte';
  import { countWords } from '../words';
  import type { MadePaper } from './fetchPaper';
  import PaperWarnings from './PaperWarnings.svelte';

  /** Films that were looked at go to their printer, once whoever sends them knows what stands on them. */
  interface Props {
    film: FilmWish;
    printer: string;
    /** As it was looked at; null while it is being made. */
    paper: MadePaper | null;
    films: number;
  }
  let { film, printer, paper, films }: Props = $props();
  const store = theVisit();
  let open = $state(false);
  let sending = $state(false);

  async function send() {
    sending = true;
    await attempt(async () => {
      const { films: sent } = await ask<{ films: number }>(`/api/visits/${store.head.visitId}/film/send`, {
        film,
        warned: true
      });
      toast.success(
        `${countWords(sent, 'film is', 'films are')} on the way to ${printer}. Dispatch tells how far.`
      );
      open = false;
    });
    sending = false;
  }
</script>

<button class="button main" disabled={!paper} onclick={() => (open = true)} data-testid="film-print"
  ><Film size={18} aria-hidden="true" />Print on film</button
>
{#if paper}
  <Dialog bind:open title="These films tell of a person">
    <div class="flex flex-col gap-3" data-testid="film-warning">
      <PaperWarnings {paper} patient={store.head.patient.name} />
      <p>
        {countWords(films, 'film', 'films')}{film.copies > 1 ? `, ${film.copies} times each,` : ''} to {printer}.
      </p>
      <div class="flex justify-end gap-2">
        <button class="button" onclick={() => (open = false)}>Not now</button>
        <button class="button main" disabled={sending} onclick={() => void send()} data-testid="film-accept"
          ><Film size={18} aria-hidden="true" />I know. Print it</button
        >
      </div>
    </div>
  </Dialog>
{/if}
