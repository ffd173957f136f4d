<script lang="ts">
  import { pictureName } from '$core/picture/pictureView';
  import { resultsFoot } from '$core/report/resultsPaper';
  import { visitResults } from '$core/report/visitResults';
  import { dayWords } from '$ui/clock';
  import Small from '$ui/pictures/Small.svelte';
  import CourseDrawing from '$ui/report/CourseDrawing.svelte';
  import PostureDrawing from '$ui/report/PostureDrawing.svelte';
  import Paper, { type Names } from '$ui/visit/Paper.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';
  import { countWords } from '$ui/words';

  let { data } = $props();
  const store = theVisit();
  let names = $state<Names>('full');
  const results = $derived(visitResults(store.standing, data.earlier));
</script>

<Paper
  back={{ href: `/visits/${store.head.visitId}/measure`, words: 'Back to Measure' }}
  testid="results-page"
  bind:names
  foot={resultsFoot}
  pdf={data.who!.may.send ? `/api/visits/${store.head.visitId}/results` : undefined}
>
  {#each results.guides as guide (guide.set)}
    {@const ranged = guide.lines.some(({ range }) => range)}
    {@const drawn = guide.lines.some(({ course }) => course.length > 1)}
    <section class="mb-6" data-testid="results-guide">
      <h2 class="text-lead mb-1 font-bold">{guide.name}</h2>
      <p>
        {[...new Set(guide.pictures.map(({ takenAt }) => dayWords(takenAt)))].join(', ')}, prepared by {guide.preparedBy.join(
          ', '
        )}.
        {#if guide.confirmedBy.length > 0}Confirmed by {guide.confirmedBy.join(', ')}.{:else}<strong
            >No clinician has confirmed it yet.</strong
          >{/if}
      </p>
      <!-- A posture's photographs stand on one line, beside the figure that is drawn from them. -->
      <div class="my-3 flex flex-wrap items-end gap-4 {guide.figure ? 'border-b' : ''}">
        {#each guide.pictures as picture (picture.pictureId)}
          <div class="w-[36mm]">
            <Small
              {picture}
              alt={pictureName(picture)}
              frame={guide.figure ? 'h-[64mm] w-full' : 'h-[34mm] w-full'}
            />
            <p class="text-small leading-tight">{pictureName(picture)}</p>
          </div>
        {/each}
        {#if guide.figure}
          <div class="flex flex-1 justify-center gap-4" data-testid="results-figure">
            {#if guide.figure.front}<PostureDrawing parts={guide.figure.front} seen="front" />{/if}
            {#if guide.figure.side}<PostureDrawing parts={guide.figure.side} seen="side" />{/if}
          </div>
        {/if}
      </div>
      <table class="w-full text-left">
        <thead>
          <tr class="text-small align-bottom">
            <th class="py-1 pr-3 font-semibold">Result</th>
            <th class="py-1 pr-3 font-semibold">Value</th>
            {#if ranged}<th class="py-1 pr-3 font-semibold">Range</th>{/if}
            {#if guide.since}<th class="py-1 pr-3 font-semibold">Since {dayWords(guide.since)}</th>{/if}
            {#if drawn}<th class="py-1 font-semibold">Over time</th>{/if}
          </tr>
        </thead>
        <tbody>
          {#each guide.lines as { key, name, value, range, standing, stage, change, course, limits } (key)}
            <tr class="break-inside-avoid border-t align-top" data-testid="results-line" data-key={key}>
              <th class="py-1 pr-3 font-normal">{name}</th>
              <td class="py-1 pr-3 font-semibold whitespace-nowrap"
                >{value}{#if stage}<span class="block font-normal">{stage}</span>{/if}</td
              >
              {#if ranged}
                <td class="py-1 pr-3"
                  >{#if range}{range}{#if standing}: <span class={standing === 'within' ? '' : 'font-bold'}
                        >{standing}</span
                      >{/if}{:else}–{/if}</td
                >
              {/if}
              {#if guide.since}<td class="py-1 pr-3">{change || '–'}</td>{/if}
              {#if drawn}<td class="py-1"
                  >{#if course.length > 1}<CourseDrawing
                      steps={course}
                      {limits}
                      words="{name}, {course.length} times"
                    />{/if}</td
                >{/if}
            </tr>
          {/each}
        </tbody>
      </table>
      {#each guide.without as { name, because } (name)}
        <p class="mt-1"><span class="font-semibold">{name}</span> gives no value: {because}.</p>
      {/each}
      {#if guide.leftOut > 0}<p class="text-small mt-1">
          {countWords(guide.leftOut, 'result was left out: its', 'results were left out: their')} landmarks are
          not all placed.
        </p>{/if}
      {#if !guide.since}<p class="text-small mt-1">It was not measured in an earlier visit.</p>{/if}
      <p class="text-small mt-1">{guide.sources.join('; ')}.</p>
    </section>
  {/each}
  {#if results.readings.length > 0}
    <h2 class="text-lead mb-1 font-bold">Readings</h2>
    <table class="w-full text-left" data-testid="results-readings">
      <tbody>
        {#each results.readings as { id, picture, name, value, confirmedBy } (id)}
          <tr class="break-inside-avoid border-t align-top">
            <th class="py-1 pr-3 font-normal">{name}, {picture}</th>
            <td class="py-1 pr-3 font-semibold">{value}</td>
            <td class="py-1">{confirmedBy === null ? 'not confirmed yet' : `confirmed by ${confirmedBy}`}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#if results.guides.length === 0 && results.readings.length === 0}
    <p>Nothing has been measured in this visit yet.</p>
  {/if}
</Paper>
