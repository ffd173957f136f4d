<script lang="ts">
  import { UserPlus } from '@lucide/svelte';
  import type { Colleague } from '$core/letter/colleague';
  import type { AboutOffered, LetterSaid } from '$core/letter/letterView';
  import Select from '../kit/Select.svelte';
  import Tick from '../kit/Tick.svelte';
  import NamesChoice from '../report/NamesChoice.svelte';

  /** Whom a letter goes to, how the patient is named in it, and what of the visit it is about. */
  interface Props {
    said: LetterSaid;
    offered: AboutOffered;
    colleagues: readonly Colleague[];
    disabled?: boolean;
    onchange: (said: LetterSaid) => void;
    /** Somebody is wanted who is not on the list. */
    onnew?: () => void;
  }
  let { said, offered, colleagues, disabled = false, onchange, onnew }: Props = $props();

  const nobody = '';
  const parts = [
    { part: 'reasons', title: 'Why the patient came' },
    { part: 'procedures', title: 'What was done' }
  ] as const;
  const all = (part: 'reasons' | 'procedures') => [...new Set([...offered[part], ...said[part]])];
  const put = (part: 'reasons' | 'procedures', words: string, is: boolean) =>
    onchange({
      ...said,
      [part]: all(part).filter((each) => (each === words ? is : said[part].includes(each)))
    });
</script>

<div class="flex flex-col gap-3" inert={disabled}>
  <div>
    <div class="flex items-center justify-between">
      <span class="heading">It goes to</span>
      {#if onnew}
        <button class="button quiet px-2" onclick={onnew} data-testid="letter-colleague"
          ><UserPlus size={18} aria-hidden="true" />New</button
        >
      {/if}
    </div>
    <Select
      label="It goes to"
      value={said.colleagueId ?? nobody}
      options={[
        { value: nobody, words: 'Nobody named' },
        ...colleagues.map((each) => ({ value: each.colleagueId, words: each.name, detail: each.practice }))
      ]}
      onchange={(id) => onchange({ ...said, colleagueId: id === nobody ? null : id })}
      testid="letter-to"
    />
  </div>
  <div class="flex items-center justify-between gap-3">
    <span>The patient</span>
    <NamesChoice small value={said.names} onchange={(names) => onchange({ ...said, names })} />
  </div>
  {#each parts as { part, title } (part)}
    {#if all(part).length > 0}
      <fieldset>
        <legend class="heading">{title}</legend>
        {#each all(part) as words (words)}
          <div class="-ml-2.5 flex items-center">
            <Tick
              checked={said[part].includes(words)}
              label={words}
              testid="about-{part}"
              onchange={(is) => put(part, words, is)}
            />
            <span class="min-w-0 leading-tight break-words" aria-hidden="true">{words}</span>
          </div>
        {/each}
      </fieldset>
    {/if}
  {/each}
</div>
