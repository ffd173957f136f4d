<script lang="ts">
  import { ShieldCheck, TriangleAlert } from '@lucide/svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { clockWords, dayWords } from '$ui/clock';

  let { data } = $props();
  const sound = $derived(data.check.wrong.length === 0 && data.lost === null);
  const words = $derived.by(() => {
    if (data.check.wrong.length > 0)
      return `Changed or missing: line ${data.check.wrong.slice(0, 8).join(', ')}.`;
    if (data.lost)
      return `Lines are missing at the end: line ${data.lost.seq} was noted outside the records on ${dayWords(data.lost.at)}, and is not there any more.`;
    return data.whole
      ? `All ${data.check.lines} lines were gone through and are whole: none was changed, none is missing.`
      : `${data.check.lines} lines, whole since they were last gone through: none was changed, none is missing.`;
  });

  type Line = (typeof data.lines)[number];
  const uuid = /^[0-9a-f]{8}-[0-9a-f]{4}-/;
  /** What a line is about, in words; numbers that only computers know say nothing to anybody. */
  function about({ patient, picture, subject }: Line): string {
    const what = picture ? `picture ${picture.number}` : uuid.test(subject) ? '' : subject;
    const whose = patient ? `${patient.name} (${patient.recordNumber})` : '';
    return [whose, what].filter(Boolean).join(', ');
  }
  const detailWords = (value: unknown): string =>
    Array.isArray(value) ? value.filter((each) => typeof each === 'string').join(', ') : String(value);
  const more = ({ details }: Line): string =>
    Object.entries(details)
      .filter(([, value]) => value !== null && !(typeof value === 'string' && uuid.test(value)))
      .map(([name, value]) => `${name} ${detailWords(value)}`)
      .join('; ');
</script>

<svelte:head><title>Audit · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 flex-col gap-3 px-4 pb-4">
    <div class="panel flex items-center gap-3 px-5 py-3 {sound ? '' : 'bg-brass-wash!'}">
      {#if sound}<ShieldCheck class="text-lagoon shrink-0" aria-hidden="true" />{:else}<TriangleAlert
          class="text-brass shrink-0"
          aria-hidden="true"
        />{/if}
      <h1 class="text-lead flex-1 font-bold" role="status">{words}</h1>
      <a class="button px-4" href="/audit?all" data-sveltekit-preload-data="off">Go through all lines</a>
    </div>
    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
    <div class="panel min-h-0 flex-1 overflow-auto" tabindex="0" role="region" aria-label="Audit lines">
      <table class="text-small w-full">
        <thead class="bg-sheet sticky top-0 text-left"
          ><tr
            ><th class="w-16 py-2 pl-5">Line</th><th class="w-44">When</th><th class="w-48">Who</th><th
              class="w-36">What</th
            ><th>On</th><th class="pr-4">More</th></tr
          ></thead
        >
        <tbody>
          {#each data.lines as line (line.seq)}
            <tr class="border-rule/60 border-t align-top">
              <td class="py-1.5 pl-5 tabular-nums">{line.seq}</td>
              <td class="py-1.5 tabular-nums">{dayWords(line.at)} {clockWords(line.at)}</td>
              <td class="py-1.5 pr-3 font-semibold">{line.who}</td>
              <td class="py-1.5 pr-3">{line.act}</td>
              <td class="py-1.5 pr-3 break-words">{about(line)}</td>
              <td class="text-ink-soft py-1.5 pr-4 break-words">{more(line)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <nav class="flex justify-between" aria-label="Pages of the audit">
      {#if data.before}<a class="button px-4" href="/audit">Newest lines</a>{:else}<span></span>{/if}
      {#if data.older}<a class="button px-4" href="/audit?before={data.older}">Older lines</a>{/if}
    </nav>
  </main>
</div>
