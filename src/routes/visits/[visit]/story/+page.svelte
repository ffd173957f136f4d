<script lang="ts">
  import { language } from '$ui/writing';
  import { FileText, Mail, Printer } from '@lucide/svelte';
  import { type StoryText, storyTexts } from '$core/visit/story';
  import { dayWords, momentWords, todayAtClinic } from '$ui/clock';
  import DateField from '$ui/kit/DateField.svelte';
  import Dialog from '$ui/kit/Dialog.svelte';
  import { attempt, send } from '$ui/net/send';
  import StoryPapers from '$ui/story/StoryPapers.svelte';
  import StoryPictures from '$ui/story/StoryPictures.svelte';
  import StoryWords from '$ui/story/StoryWords.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  const mayWrite = $derived(data.who!.may.writeStories);
  const { visitId, reason, story } = $derived(store.head);

  const texts: Record<StoryText, { label: string; example: string; lines: number }> = {
    reason: { label: 'Why the visit takes place', example: 'What brings the patient', lines: 2 },
    question: { label: 'The question asked', example: 'What the pictures are to answer', lines: 2 },
    history: { label: 'What went before', example: 'Since when, what was done, what is known', lines: 4 },
    plan: { label: 'What is planned', example: 'What comes next', lines: 2 },
    colleague: { label: 'For a colleague', example: 'What whoever reads this should know', lines: 4 }
  };

  let earlier = $state.raw<{ label: string; wordings: { text: string; by: string; at: string }[] } | null>(
    null
  );
  function readEarlier(part: StoryText, label: string) {
    return attempt(async () => {
      const url = `/api/visits/${visitId}/story?part=${part}`;
      earlier = {
        label,
        ...(await send<{ wordings: { text: string; by: string; at: string }[] }>('GET', url))
      };
    });
  }
  const planned = $derived(story.plannedOn?.body ?? null);
  const plan = (body: string | null) =>
    void store.writeStory({ part: 'planned on', body }, 'The story: when it is planned');
</script>

<main class="grid min-h-0 flex-1 grid-cols-2 gap-4 px-4 pb-4">
  <section class="panel flex flex-col gap-3 overflow-y-auto p-5" aria-label="The story in words">
    <div class="flex items-center gap-2">
      <h1 class="text-title flex-1 font-bold">The story</h1>
      <a class="button" href="/visits/{visitId}/print" data-testid="to-print"
        ><Printer size={18} aria-hidden="true" />Print</a
      >
      <a class="button" href="/visits/{visitId}/letters" data-testid="to-letters"
        ><Mail size={18} aria-hidden="true" />Letters</a
      >
      <a class="button" href="/visits/{visitId}/report" data-testid="to-report"
        ><FileText size={18} aria-hidden="true" />Report</a
      >
    </div>
    {#each storyTexts as part (part)}
      {@const { label, example, lines } = texts[part]}
      <StoryWords
        {part}
        {label}
        {example}
        {lines}
        {mayWrite}
        before={part === 'reason' ? reason : ''}
        onearlier={() => void readEarlier(part, label)}
      />
      {#if part === 'plan'}
        <div class="-mt-1 flex items-center gap-3">
          <span class="text-ink-soft">for</span>
          {#if planned}
            {#if mayWrite}
              <DateField
                language={language()}
                value={planned}
                label="The day it is planned for"
                testid="planned-on"
                onchange={plan}
              />
              <button class="button quiet" onclick={() => plan(null)}>No day</button>
            {:else}<span class="font-semibold">{dayWords(planned)}</span>{/if}
          {:else if mayWrite}
            <button class="button" onclick={() => plan(todayAtClinic())} data-testid="plan-day"
              >Name a day</button
            >
          {:else}<span class="font-semibold">no day named</span>{/if}
        </div>
      {/if}
    {/each}
  </section>
  <div class="flex min-h-0 flex-col gap-4">
    <section class="panel min-h-0 flex-1 overflow-y-auto p-5" aria-label="The story in pictures">
      <h2 class="text-title mb-3 font-bold">Its pictures</h2>
      <StoryPictures {mayWrite} />
    </section>
    <StoryPapers {mayWrite} mayBringIn={data.who!.may.bringIn} maySend={data.who!.may.send} />
  </div>
</main>

<Dialog
  bind:open={() => earlier !== null, (open) => open || (earlier = null)}
  title="Earlier wordings"
  message={earlier?.label}
>
  <ol class="flex flex-col gap-3" data-testid="wordings">
    {#each earlier?.wordings ?? [] as { text, by, at } (at)}
      <li class="border-rule border-b pb-2">
        <p class="text-small text-ink-soft">{by}, {momentWords(at)}</p>
        <p class="whitespace-pre-wrap">{text || 'Nothing.'}</p>
      </li>
    {/each}
  </ol>
</Dialog>
