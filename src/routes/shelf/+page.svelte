<script lang="ts">
  import { goto } from '$app/navigation';
  import { LibraryBig } from '@lucide/svelte';
  import { type AgeBand, ageBands, caseNumber } from '$core/shelf/teachingCase';
  import { again } from '$ui/net/going';
  import Select from '$ui/kit/Select.svelte';
  import Switch from '$ui/kit/Switch.svelte';
  import TextField from '$ui/kit/TextField.svelte';
  import { onNews } from '$ui/net/news';
  import Spine from '$ui/shelf/Spine.svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { afterTyping } from '$ui/typing';
  import { countWords } from '$ui/words';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  let words = $state(data.query.words);

  const asked = (part: Record<string, string>) => {
    const now = { words: data.query.words, age: data.query.age ?? '', quiz: data.quiz ? '1' : '', ...part };
    const query = new URLSearchParams(Object.entries(now).filter(([, value]) => value !== ''));
    return query.size > 0 ? `?${query}` : '';
  };
  const ask = (part: Record<string, string>) =>
    void goto(`/shelf${asked(part)}`, { keepFocus: true, noScroll: true, replaceState: true });
  const typed = afterTyping((text) => ask({ words: text }));
  const any = 'any';
  $effect(() =>
    onNews((heard) => {
      if (heard.topic === 'shelf' || heard.topic === 'all') void again('yonder:shelf');
    })
  );
  const limited = $derived(data.query.words !== '' || data.query.age !== undefined);
</script>

<svelte:head><title>Shelf · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto flex max-w-6xl flex-col gap-5 px-6 pt-4 pb-8">
  <div class="flex flex-wrap items-center gap-3">
    <h1 class="text-title mr-auto font-bold">Shelf</h1>
    <div class="w-72">
      <TextField
        label="Find cases"
        bare
        bind:value={() => words, (text) => typed((words = text))}
        most={100}
        example="Number, title, key word, code"
        testid="find-case"
      />
    </div>
    <div class="w-44">
      <Select
        label="Age"
        value={data.query.age ?? any}
        options={[
          { value: any as AgeBand | typeof any, words: 'Any age' },
          ...ageBands.map((value) => ({ value, words: value }))
        ]}
        onchange={(age) => ask({ age: age === any ? '' : age })}
      />
    </div>
    <Switch
      checked={data.quiz}
      words="Look first"
      onchange={(quiz) => ask({ quiz: quiz ? '1' : '' })}
      testid="look-first"
    />
  </div>
  {#if data.cases.length === 0}
    <div class="panel flex flex-col items-center gap-2 px-6 py-14 text-center">
      <LibraryBig size={34} class="text-ink-soft" aria-hidden="true" />
      <p class="text-lead font-bold">{limited ? 'No case is found by that.' : 'The shelf is empty.'}</p>
      <p class="text-ink-soft">
        {limited
          ? 'Look for less, or by another word.'
          : 'A case is made in a chart, of pictures that are picked there.'}
      </p>
    </div>
  {:else}
    <div
      class="border-ink/70 flex flex-wrap items-end gap-x-1.5 gap-y-5 border-b-8 px-3"
      data-testid="spines"
    >
      {#each data.cases as spine (spine.caseId)}
        <Spine {spine} quiz={data.quiz} href="/shelf/{spine.caseId}{asked({})}" />
      {/each}
    </div>
    <section class="panel px-5 py-4" aria-labelledby="contents">
      <h2 id="contents" class="heading mb-2">Contents</h2>
      <ul>
        {#each data.cases as { caseId, number, state, words: told, pictures, firstFile } (caseId)}
          <li class="border-rule border-t first:border-0" data-testid="contents-row">
            <a class="flex min-h-14 items-center gap-4 py-2" href="/shelf/{caseId}{asked({})}">
              <span class="w-12 shrink-0 font-bold">{caseNumber(number)}</span>
              <span class="bg-well h-12 w-16 shrink-0 overflow-hidden rounded">
                {#if firstFile}<img
                    src="/api/cases/{caseId}/files/{firstFile}"
                    alt=""
                    loading="lazy"
                    class="bg-stage h-full w-full object-contain"
                  />{/if}
              </span>
              <span class="min-w-0 flex-1">
                <span class="block truncate font-semibold"
                  >{data.quiz ? told.description || 'Look first' : told.title}</span
                >
                <span class="text-small text-ink-soft block truncate">
                  {[
                    told.ageBand === 'not said' ? '' : `age ${told.ageBand}`,
                    data.quiz ? '' : told.keyWords.join(', ')
                  ]
                    .filter(Boolean)
                    .join(' · ')}
                </span>
              </span>
              <span
                class="text-small shrink-0 {state === 'stopped' ? 'text-brass font-bold' : 'text-ink-soft'}"
              >
                {state === 'ready' ? countWords(pictures, 'picture', 'pictures') : state}
              </span>
            </a>
          </li>
        {/each}
      </ul>
    </section>
  {/if}
</main>
