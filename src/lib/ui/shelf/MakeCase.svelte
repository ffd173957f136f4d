<script lang="ts">
  import { goto } from '$app/navigation';
  import type { LeavingRule } from '$core/deidentify/rule';
  import { type CaseWords, ageBandOn, mostCasePictures, ruleForCases } from '$core/shelf/teachingCase';
  import type { PictureView } from '$core/picture/pictureView';
  import { dayAtClinic } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import { attempt, send } from '../net/send';
  import { countWords } from '../words';
  import { CaseKeeping } from './caseKeeping.svelte';
  import CaseFields from './CaseFields.svelte';
  import NameFound from './NameFound.svelte';

  interface Props {
    open: boolean;
    pictures: readonly PictureView[];
    /** YYYY-MM-DD, where it is known. */
    born: string | null;
  }
  let { open = $bindable(), pictures, born }: Props = $props();
  let rules = $state.raw<{ ruleId: string; name: string; rule: LeavingRule }[]>([]);
  const leavesDrawings = $derived(rules.find((each) => each.ruleId === ruleId)?.rule.graphics === 'cleaned');
  let ruleId = $state('');
  let words = $state<CaseWords>(empty());
  const keeping = new CaseKeeping();
  const tooMany = $derived(pictures.length > mostCasePictures);

  function empty(): CaseWords {
    const first = pictures[0];
    const ageBand = first ? ageBandOn(born, dayAtClinic(first.takenAt)) : 'not said';
    return { title: '', description: '', keyWords: [], ageBand, diagnosis: null, findings: '' };
  }
  $effect(() => {
    if (!open) return;
    words = empty();
    keeping.found = '';
    void attempt(async () => {
      rules = await send<typeof rules>('GET', '/api/rules');
      ruleId ||= ruleForCases(rules)?.ruleId ?? '';
    });
  });
  async function make(event: SubmitEvent) {
    event.preventDefault();
    const made = await keeping.keep<{ caseId: string }>('/api/cases', {
      pictureIds: pictures.map(({ pictureId }) => pictureId),
      ruleId: ruleId || null,
      words: $state.snapshot(words)
    });
    if (made) await goto(`/shelf/${made.caseId}`);
  }
</script>

<Dialog
  bind:open
  title="A teaching case of {countWords(pictures.length, 'picture', 'pictures')}"
  message="A number stands for the name. The pictures are copied: what is done in the chart later changes nothing here."
  wide
>
  <form class="flex flex-col gap-3" onsubmit={make} data-testid="make-case-form">
    <CaseFields bind:words />
    <NameFound {keeping} />
    {#if tooMany}<p class="text-brass font-semibold" role="alert" data-testid="case-too-many">
        A case holds at most {mostCasePictures} pictures. Pick fewer.
      </p>{/if}
    <div class="flex items-end justify-between gap-4">
      <div class="w-72">
        <span class="mb-1 block font-semibold">De-identification rule</span>
        <Select
          label="De-identification rule"
          bind:value={ruleId}
          options={rules.map((each) => ({ value: each.ruleId, words: each.name }))}
        />
        {#if rules.length > 0 && !leavesDrawings}<p class="text-small text-brass mt-1 font-semibold">
            What is drawn is left out by this rule.
          </p>{/if}
      </div>
      <button
        class="button main shrink-0"
        disabled={words.title.trim() === '' || keeping.busy || tooMany}
        data-testid="keep-case">Put it on the shelf</button
      >
    </div>
  </form>
</Dialog>
