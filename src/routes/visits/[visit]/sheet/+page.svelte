<script lang="ts">
  import { placeWords } from '$core/anatomy/place';
  import { findingsOf } from '$core/picture/pictureLayers';
  import { pictureName } from '$core/picture/pictureView';
  import { type StoryText, storyTexts } from '$core/visit/story';
  import { clockWords, dateWords, dayWords } from '$ui/clock';
  import Small from '$ui/pictures/Small.svelte';
  import { asInStory } from '$ui/story/asInStory';
  import type { PaperNames } from '$core/report/paperHead';
  import Paper from '$ui/visit/Paper.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const store = theVisit();
  const { patient, story, reason, visitId } = $derived(store.head);
  const who = $derived(data.who!);
  let names = $state<PaperNames>('initials');

  const labels: Record<StoryText, string> = $derived({
    reason: 'Why',
    question: 'Question',
    history: 'Before',
    plan: story.plannedOn?.body ? `Planned for ${dateWords(story.plannedOn.body)}` : 'Planned',
    colleague: 'For a colleague'
  });
  const said = $derived(
    storyTexts
      .map((part) => ({
        part,
        text: story.texts[part]?.body ?? (part === 'reason' ? reason : '')
      }))
      .filter(({ text }) => text.trim() !== '')
  );
  const pictures = $derived(
    store.storyPictures.length > 0
      ? store.storyPictures.map(({ entry, picture }) => ({
          key: entry.id,
          picture: asInStory(picture, entry),
          words: entry.words
        }))
      : store.standing.map((picture) => ({ key: picture.pictureId, picture, words: '' }))
  );
  const papers = $derived(story.papers.filter(({ putAwayBy }) => putAwayBy === null));
  const findings = $derived(
    store.pictures.flatMap((picture) =>
      findingsOf(picture.layers).map(({ id, finding }) => ({
        id,
        where: finding.place ? placeWords(finding.place, who.notation) : pictureName(picture),
        words: finding.words
      }))
    )
  );
</script>

<Paper
  back={{ href: `/visits/${visitId}/story`, words: 'Back to the story' }}
  testid="sheet"
  bind:names
  foot="Small pictures, for the talk and the folder: not for reading them."
>
  {#if patient.alert}<p class="mb-3 font-bold">{patient.alert}</p>{/if}
  {#if said.length > 0}
    <dl class="mb-4 grid grid-cols-[8rem_1fr] gap-x-4 gap-y-1.5">
      {#each said as { part, text } (part)}
        <dt class="text-small pt-0.5">{labels[part]}</dt>
        <dd class="whitespace-pre-wrap">{text}</dd>
      {/each}
    </dl>
  {/if}
  {#if findings.length > 0}
    <h2 class="text-lead mb-1 font-bold">Findings</h2>
    <table class="mb-4 w-full text-left" data-testid="sheet-findings">
      <tbody>
        {#each findings as { id, where, words } (id)}
          <tr class="border-t align-top">
            <th class="w-56 py-1 pr-4 font-semibold">{where}</th>
            <td class="py-1">{words}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  <ul class="grid grid-cols-2 gap-4">
    {#each pictures as { key, picture, words } (key)}
      {@const grade = picture.layers.grade}
      <li class="break-inside-avoid">
        <Small {picture} alt={pictureName(picture)} frame="h-[58mm] w-full" />
        <p class="mt-1 leading-tight">
          <span class="font-semibold">{pictureName(picture)}</span>, {dayWords(picture.takenAt)}, {clockWords(
            picture.takenAt
          )}
          {#if words}<span class="block">{words}</span>{/if}
          {#if picture.layers.about?.remark}<span class="block">{picture.layers.about.remark}</span>{/if}
          {#if grade && grade.grade !== 'diagnostic'}<span class="block"
              >{grade.grade}{grade.reasons.length > 0 ? `: ${grade.reasons.join(', ')}` : ''}</span
            >{/if}
        </p>
      </li>
    {/each}
  </ul>
  {#if papers.length > 0}
    <!-- What a paper is called may name the patient. -->
    <p class="mt-4" data-testid="sheet-papers">
      <span class="font-semibold">{countWords(papers.length, 'paper lies', 'papers lie')} with it</span
      >{names === 'full'
        ? `: ${papers.map(({ title, pages }) => `${title} (${countWords(pages, 'page', 'pages')})`).join(', ')}.`
        : '.'}
    </p>
  {/if}
</Paper>
