<script lang="ts">
  import { Download, Plus, Trash2, Upload } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { whyUnread } from '$core/measurement/guides/lacking';
  import type { GuideWritten } from '$core/measurement/guides/written';
  import { writtenGuideSchema } from '$core/measurement/guides/writtenSchema';
  import Tooltip from '../kit/Tooltip.svelte';
  import { ask, attempt } from '../net/send';
  import { countWords, tradeWords } from '../words';

  let { guides, mayChange, onkept }: { guides: GuideWritten[]; mayChange: boolean; onkept: () => void } =
    $props();
  let picker = $state<HTMLInputElement>();

  async function bringIn() {
    const [file] = picker!.files ?? [];
    if (!file) return;
    const text = await file.text();
    picker!.value = '';
    let given: unknown;
    try {
      given = JSON.parse(text);
    } catch {
      return refused(file.name, 'It is not written as JSON.');
    }
    const read = writtenGuideSchema.safeParse(given);
    if (!read.success) return refused(file.name, whyUnread(read.error.issues));
    if (await attempt(() => ask('/api/guides', { of: null, guide: read.data }))) onkept();
  }
  const refused = (name: string, why: string) =>
    toast.error(`${name} is no guide.`, {
      description: `${why} Put it right and bring it in again.`,
      duration: 9000
    });
  async function drop(key: string) {
    await attempt(() => ask(`/api/guides/${key}`, {}, 'DELETE'));
    onkept();
  }
  const fileName = ({ written }: GuideWritten) => `${written.name.replaceAll(/[^\p{L}\p{N} -]/gu, '')}.json`;
</script>

<section class="panel p-6" aria-labelledby="guides" data-testid="written-guides">
  <div class="mb-3 flex flex-wrap items-center gap-2">
    <div class="min-w-60 flex-1">
      <h2 id="guides" class="text-lead font-bold">Guides of our own</h2>
      <p class="text-ink-soft">
        Landmarks and what follows from them, offered beside the guides that ship. Files follow <a
          class="underline"
          href="/api/guides/schema">this schema</a
        >.
      </p>
    </div>
    {#if mayChange}
      <input
        type="file"
        accept="application/json,.json"
        class="hidden"
        bind:this={picker}
        onchange={bringIn}
        aria-label="A guide’s file"
        data-testid="guide-file"
      />
      <button class="button" onclick={() => picker!.click()}
        ><Upload size={18} aria-hidden="true" />Bring one in</button
      >
      <a class="button main" href="/guides/new" data-testid="new-guide"
        ><Plus size={18} aria-hidden="true" />Write one</a
      >
    {/if}
  </div>
  <ul class="grid gap-1.5 lg:grid-cols-2">
    {#each guides as guide (guide.key)}
      {@const { written, version, key } = guide}
      <li
        class="border-rule flex min-h-12 items-center gap-1 rounded-lg border pr-1 pl-4"
        data-testid="written-guide"
      >
        <span class="min-w-0 flex-1 py-1.5 leading-tight">
          <span class="block font-semibold break-words">{written.name}</span>
          <span class="text-small text-ink-soft"
            >{tradeWords[written.trade]}, {countWords(
              written.views.flatMap(({ landmarks }) => landmarks).length,
              'landmark',
              'landmarks'
            )}, {countWords(written.results.length, 'result', 'results')}, version {version}</span
          >
        </span>
        <a class="button px-3" href="/guides/{key}" data-testid="change-guide"
          >{mayChange ? 'Change' : 'Look'}</a
        >
        <a
          class="flex size-11 items-center justify-center rounded-lg"
          href="/api/guides/{key}"
          download={fileName(guide)}
          aria-label="Take {written.name} out as a file"
          data-testid="export-guide"><Download size={18} aria-hidden="true" /></a
        >
        {#if mayChange}<Tooltip
            words="Drop {written.name}; what was done by it stays"
            button="flex size-11 items-center justify-center rounded-lg"
            onclick={() => drop(key)}><Trash2 size={18} aria-hidden="true" /></Tooltip
          >{/if}
      </li>
    {:else}<li class="text-ink-soft">None yet.</li>{/each}
  </ul>
</section>
