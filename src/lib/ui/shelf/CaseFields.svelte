<script lang="ts">
  import { untrack } from 'svelte';
  import { type CaseWords, ageBands, codingSystems } from '$core/shelf/teachingCase';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';

  let { words = $bindable() }: { words: CaseWords } = $props();
  const none = 'none';
  type System = (typeof codingSystems)[number];
  const diagnosis = $derived(words.diagnosis);
  let keyText = $state('');
  const parted = (text: string) =>
    text
      .split(',')
      .map((each) => each.trim())
      .filter(Boolean);
  // Other words come in: what is typed stays as it is typed as long as it says the same.
  $effect.pre(() => {
    const all = words.keyWords;
    if (parted(untrack(() => keyText)).join() !== all.join()) keyText = all.join(', ');
  });
  function typeKeys(text: string) {
    keyText = text;
    words.keyWords = parted(text);
  }
  const chooseSystem = (system: System | typeof none) =>
    (words.diagnosis =
      system === none ? null : { system, code: diagnosis?.code ?? '', words: diagnosis?.words ?? '' });
</script>

<TextField label="Title" bind:value={words.title} most={120} first testid="case-title" />
<TextField
  label="Description, seen at once"
  long
  bind:value={words.description}
  most={4000}
  example="Why the patient came, what was asked"
  testid="case-description"
/>
<div class="grid gap-3 sm:grid-cols-[1fr_12rem]">
  <TextField
    label="Key words, by commas"
    bind:value={() => keyText, typeKeys}
    most={400}
    testid="case-key-words"
  />
  <div>
    <span class="mb-1 block font-semibold">Age</span>
    <Select
      label="Age"
      bind:value={words.ageBand}
      options={ageBands.map((value) => ({ value, words: value }))}
      testid="case-age"
    />
  </div>
</div>
<TextField
  label="What was found, hidden until asked for"
  long
  bind:value={words.findings}
  most={8000}
  testid="case-findings"
/>
<div class="grid items-end gap-3 sm:grid-cols-[12rem_8rem_1fr]">
  <div>
    <span class="mb-1 block font-semibold">Diagnosis by</span>
    <Select
      label="Coding system of the diagnosis"
      value={diagnosis?.system ?? none}
      options={[
        { value: none as System | typeof none, words: 'No code' },
        ...codingSystems.map((value) => ({ value, words: value }))
      ]}
      onchange={chooseSystem}
      testid="case-system"
    />
  </div>
  {#if words.diagnosis}
    <TextField label="Code" bind:value={words.diagnosis.code} most={40} testid="case-code" />
    <TextField label="In words" bind:value={words.diagnosis.words} most={200} testid="case-diagnosis" />
  {/if}
</div>
