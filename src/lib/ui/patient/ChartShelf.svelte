<script lang="ts">
  import { FileText } from '@lucide/svelte';
  import type { PaperView } from '$core/papers/paper';
  import { type BesideThing, type PictureFacets, besideThings } from '$core/picture/pictureSearch';
  import PlacePill from '../body/PlacePill.svelte';
  import { dayWords } from '../clock';
  import Popover from '../kit/Popover.svelte';
  import { countWords } from '../words';

  interface Props {
    facets: PictureFacets;
    papers: readonly PaperView[];
    chosen: BesideThing | null;
    onchoose: (which: BesideThing | null) => void;
  }
  let { facets, papers, chosen, onchoose }: Props = $props();
  const words: Record<BesideThing, string> = {
    loops: 'Loops and series',
    'kept views': 'Kept views',
    'no place': 'Linked to no place'
  };
</script>

{#each besideThings.filter((each) => facets.beside[each]) as which (which)}
  <li>
    <PlacePill
      key={which}
      words={words[which]}
      count={facets.beside[which] ?? 0}
      chosen={chosen === which}
      onchoose={() => onchoose(chosen === which ? null : which)}
    />
  </li>
{/each}
{#if papers.length > 0}
  <li>
    <Popover
      label="Papers"
      button="text-small border-lagoon bg-lagoon-wash flex min-h-11 items-center gap-2 rounded-full border px-3 font-semibold"
      testid="papers"
    >
      {#snippet trigger()}Papers<span class="text-lagoon">{papers.length}</span>{/snippet}
      <ul class="flex max-w-md flex-col gap-1.5" data-testid="chart-papers">
        {#each papers as { paperId, title, pages, addedAt } (paperId)}
          <li>
            <a
              class="button w-full justify-start px-3"
              href="/api/papers/{paperId}"
              target="_blank"
              rel="noopener"
              ><FileText size={18} class="shrink-0" aria-hidden="true" /><span
                >{title}
                <span class="text-small text-ink-soft font-normal"
                  >{countWords(pages, 'page', 'pages')}, {dayWords(addedAt)}</span
                ></span
              ></a
            >
          </li>
        {/each}
      </ul>
    </Popover>
  </li>
{/if}
