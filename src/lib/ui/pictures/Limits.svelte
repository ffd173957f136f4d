<script lang="ts">
  import { ListFilter } from '@lucide/svelte';
  import { grades } from '$core/picture/gradeReasons';
  import type { PictureFacets, PictureSearch } from '$core/picture/pictureSearch';
  import { type PictureKind, pictureKinds } from '$core/picture/pictureView';
  import Popover from '../kit/Popover.svelte';
  import Select from '../kit/Select.svelte';
  import Tick from '../kit/Tick.svelte';
  import type { FoundPictures } from './found.svelte';
  import { kindWords } from './listedWords';

  interface Props {
    found: FoundPictures;
    facets: PictureFacets;
    onlimit: (part: Partial<PictureSearch>) => void;
  }
  let { found, facets, onlimit }: Props = $props();
  const search = $derived(found.search);
  const set = $derived(
    search.kinds.length + [search.device, search.who, search.grade].filter(Boolean).length
  );
  const any = '';
  const optionsOf = (counts: Record<string, number>, words: string) => [
    { value: any, words },
    ...Object.entries(counts)
      .sort(([a], [b]) => a.localeCompare(b))
      .map(([value, count]) => ({ value, words: value, detail: String(count) }))
  ];
  const gradeOptions = $derived([
    { value: any, words: 'Any grade' },
    ...grades
      .filter((grade) => facets.grades[grade])
      .map((grade) => ({ value: grade as string, words: grade, detail: String(facets.grades[grade]) }))
  ]);
  const kinds = $derived(pictureKinds.filter((kind) => facets.kinds[kind]));
  function toggle(kind: PictureKind) {
    const has = search.kinds.includes(kind);
    onlimit({ kinds: has ? search.kinds.filter((each) => each !== kind) : [...search.kinds, kind] });
  }
</script>

<Popover label="Limit by kind, device, person, grade" button="button px-3" testid="limits">
  {#snippet trigger()}<ListFilter size={19} aria-hidden="true" />Limit{#if set > 0}<span
        class="bg-coral text-on-fill chip px-2 py-0">{set}</span
      >{/if}{/snippet}
  <div class="flex w-72 flex-col gap-3">
    <fieldset>
      <legend class="heading mb-1">Kind</legend>
      {#each kinds as kind (kind)}
        <div class="flex items-center gap-1">
          <Tick
            checked={search.kinds.includes(kind)}
            onchange={() => toggle(kind)}
            label="{kindWords[kind]}, {facets.kinds[kind]}"
            testid="kind-{kind}"
          /><span aria-hidden="true"
            >{kindWords[kind]} <span class="text-ink-soft">{facets.kinds[kind]}</span></span
          >
        </div>
      {/each}
    </fieldset>
    <Select
      label="Device"
      value={search.device}
      options={optionsOf(facets.devices, 'Any device')}
      onchange={(device) => onlimit({ device })}
      testid="limit-device"
    />
    <Select
      label="By whom"
      value={search.who}
      options={optionsOf(facets.people, 'Anybody')}
      onchange={(who) => onlimit({ who })}
      testid="limit-who"
    />
    <Select
      label="Grade"
      value={search.grade ?? any}
      options={gradeOptions}
      onchange={(grade) => onlimit({ grade: grades.find((each) => each === grade) ?? null })}
      testid="limit-grade"
    />
  </div>
</Popover>
