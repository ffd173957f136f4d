<script lang="ts">
  import { type Named, fileNamer, nameParts, partWords } from '$core/parcel/fileNames';
  import {
    type Format,
    type Packing,
    endingOf,
    formatWords,
    formats,
    shownFormats,
    takesPapers
  } from '$core/parcel/packing';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import TextField from '../kit/TextField.svelte';

  interface Props {
    packing: Packing;
    /** An archive takes DICOM and nothing else, and no names of files. */
    archive: boolean;
    /** Whether names go along; papers go with them or not at all. */
    identity: 'identified' | 'deidentified';
    /** What names would be made of; a made-up picture where none is chosen. */
    example: readonly Named[];
    onchange: (packing: Partial<Packing>) => void;
  }
  let { packing, archive, identity, example, onchange }: Props = $props();

  const drawings = $derived(
    [
      { value: 'out' as const, words: 'Left out' },
      ...(shownFormats.includes(packing.format) && !archive
        ? [{ value: 'in' as const, words: 'Drawn into the picture' }]
        : []),
      ...(packing.format === 'dicom' || packing.format === 'package'
        ? [{ value: 'beside' as const, words: 'Beside it, as DICOM' }]
        : [])
    ].map((each) => each)
  );
  const named = $derived(
    !archive && packing.format !== 'package' && !(packing.format === 'dicom' && packing.index)
  );
  const names = $derived.by(() => {
    if (!named || packing.format === 'csv' || packing.format === 'pdf') return [];
    const name = fileNamer(packing.names, example.length);
    return example
      .slice(0, 2)
      .map((each) => `${name(each)}.${endingOf[packing.format as Exclude<Format, 'package'>]}`);
  });
  function chooseFormat(format: Format) {
    const may = (what: Packing['drawings']) =>
      what === 'out' ||
      (what === 'in' ? shownFormats.includes(format) : format === 'dicom' || format === 'package');
    onchange({ format, drawings: may(packing.drawings) ? packing.drawings : 'out' });
  }
</script>

<div class="grid grid-cols-2 gap-x-3 gap-y-2">
  {#if !archive}
    <div class="min-w-0">
      <span class="heading mb-1 block">Packed as</span>
      <Select
        label="Packed as"
        value={packing.format}
        options={formats.map((value) => ({ value, words: formatWords[value] }))}
        onchange={chooseFormat}
        testid="format"
      />
    </div>
  {/if}
  {#if drawings.length > 1}
    <div class="min-w-0">
      <span class="heading mb-1 block">Drawings</span>
      <Select
        label="Drawings"
        value={packing.drawings}
        options={drawings}
        onchange={(value) => onchange({ drawings: value })}
        testid="drawings"
      />
    </div>
  {/if}
  {#if packing.format === 'dicom' && !archive}
    <div class="col-span-2">
      <Switch
        checked={packing.index}
        words="With an index (DICOMDIR)"
        onchange={(index) => onchange({ index })}
        testid="with-index"
      />
    </div>
  {/if}
  {#if takesPapers(packing.format, identity) && !archive}
    <div class="col-span-2">
      <Switch
        checked={packing.papers}
        words="With the papers of their visits"
        onchange={(papers) => onchange({ papers })}
        testid="with-papers"
      />
    </div>
  {/if}
  {#if named && packing.format !== 'csv' && packing.format !== 'pdf'}
    <div class="col-span-2">
      <TextField
        label="Names of the files"
        bind:value={() => packing.names, (value) => onchange({ names: value })}
        most={120}
        testid="names"
      />
      <p class="mt-1 flex flex-wrap gap-1">
        {#each nameParts as part (part)}
          <button
            class="button text-small px-2"
            title="Add {partWords[part]}"
            onclick={() => onchange({ names: `${packing.names.trimEnd()} {${part}}`.trim() })}
            >{`{${part}}`}</button
          >
        {/each}
      </p>
      {#if names.length > 0}<p class="text-small text-ink-soft mt-1 break-words" data-testid="names-preview">
          {names.join(' · ')}
        </p>{/if}
    </div>
  {/if}
  {#if !archive}
    <div class="col-span-2">
      <TextField
        label="Words that go along"
        long
        bind:value={() => packing.words, (value) => onchange({ words: value })}
        most={4000}
        testid="words"
      />
    </div>
  {/if}
</div>
