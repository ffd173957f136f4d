<script lang="ts">
  import { courseBox, courseDrawing } from '$core/report/courseDrawing';
  import { resultsFoot, resultsPaper } from '$core/report/resultsPaper';
  import { visitResults } from '$core/report/visitResults';
  import { dayWords } from '$ui/clock';
  import Small from '$ui/pictures/Small.svelte';
  import PaperDrawing from '$ui/report/PaperDrawing.svelte';
  import PostureDrawing from '$ui/report/PostureDrawing.svelte';
  import type { PaperNames } from '$core/report/paperHead';
  import Paper from '$ui/visit/Paper.svelte';
  import { theVisit } from '$ui/visit/visitStore.svelte';

  let { data } = $props();
  const store = theVisit();
  let names = $state<PaperNames>('full');
  const results = $derived(
    resultsPaper(visitResults(store.standing, data.earlier, data.who!.language), dayWords)
  );
  const pictureOf = (id: string) => store.standing.find(({ pictureId }) => pictureId === id)!;
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
        {guide.done}
        {#if guide.warning}<strong>{guide.warning}</strong>{/if}
      </p>
      <!-- A posture's photographs stand on one line, beside the figure that is drawn from them. -->
      <div class="my-3 flex flex-wrap items-end gap-4 {guide.figure ? 'border-b' : ''}">
        {#each guide.pictures as { pictureId, name } (pictureId)}
          <div class="w-[36mm]">
            <Small
              picture={pictureOf(pictureId)}
              alt={name}
              frame={guide.figure ? 'h-[64mm] w-full' : 'h-[34mm] w-full'}
            />
            <p class="text-small leading-tight">{name}</p>
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
            {#if guide.since}<th class="py-1 pr-3 font-semibold">Since {guide.since}</th>{/if}
            {#if drawn}<th class="py-1 font-semibold">Over time</th>{/if}
          </tr>
        </thead>
        <tbody>
          {#each guide.lines as { key, name, value, range, isOutside, stage, change, course, limits } (key)}
            <tr class="break-inside-avoid border-t align-top" data-testid="results-line" data-key={key}>
              <th class="py-1 pr-3 font-normal">{name}</th>
              <td class="py-1 pr-3 font-semibold whitespace-nowrap"
                >{value}{#if stage}<span class="block font-normal">{stage}</span>{/if}</td
              >
              {#if ranged}
                <td class="py-1 pr-3 {isOutside ? 'font-bold' : ''}">{range || '–'}</td>
              {/if}
              {#if guide.since}<td class="py-1 pr-3">{change || '–'}</td>{/if}
              {#if drawn}<td class="py-1"
                  >{#if course.length > 1}<PaperDrawing
                      shapes={courseDrawing(course, limits)}
                      box={courseBox}
                      height="h-[9mm]"
                      words="{name}, {course.length} times"
                      dashes="3 2"
                    />{/if}</td
                >{/if}
            </tr>
          {/each}
        </tbody>
      </table>
      {#each guide.remarks as remark (remark)}<p class="text-small mt-1">{remark}</p>{/each}
    </section>
  {/each}
  {#if results.readings.length > 0}
    <h2 class="text-lead mb-1 font-bold">Readings</h2>
    <table class="w-full text-left" data-testid="results-readings">
      <tbody>
        {#each results.readings as { id, name, value, confirmed } (id)}
          <tr class="break-inside-avoid border-t align-top">
            <th class="py-1 pr-3 font-normal">{name}</th>
            <td class="py-1 pr-3 font-semibold">{value}</td>
            <td class="py-1">{confirmed}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  {/if}
  {#if results.guides.length === 0 && results.readings.length === 0}
    <p>Nothing has been measured in this visit yet.</p>
  {/if}
</Paper>
