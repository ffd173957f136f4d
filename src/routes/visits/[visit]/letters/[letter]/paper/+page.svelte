<script lang="ts">
  import { Pencil } from '@lucide/svelte';
  import { likingWords } from '$core/letter/colleague';
  import { dayWords } from '$ui/clock';
  import MissingList from '$ui/letter/MissingList.svelte';
  import { fetchPaper } from '$ui/report/fetchPaper';
  import PaperDesk from '$ui/report/PaperDesk.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  const { letter } = $derived(data);
  const url = $derived(`/visits/${store.head.visitId}/letters/${letter.letterId}`);
  const to = $derived(data.colleagues.find(({ colleagueId }) => colleagueId === letter.colleagueId) ?? null);
</script>

<PaperDesk
  what="letter"
  called="This letter"
  fileName="{letter.title} {dayWords(store.head.openedAt)}"
  may={data.who!.may.send}
  stamp={String(letter.seq)}
  usual={to?.destinationId ?? ''}
  make={(signal) => fetchPaper(`/api${url}`, signal)}
>
  <section class="panel flex min-h-0 flex-col gap-3 overflow-y-auto p-5" aria-label="About the letter">
    <h1 class="text-title font-bold break-words">{letter.title}</h1>
    {#if to}
      <p>
        To <strong>{to.name}</strong>{to.practice ? `, ${to.practice}` : ''}, who likes to get it
        <strong>{likingWords[to.likes]}</strong>.
      </p>
    {/if}
    {#if data.filling.missing.length > 0}
      <div>
        <h2 class="heading">Made without</h2>
        <MissingList missing={data.filling.missing} />
      </div>
    {/if}
    <a class="button mt-auto" href={url} data-testid="letter-edit"
      ><Pencil size={18} aria-hidden="true" />Change it</a
    >
  </section>
</PaperDesk>
