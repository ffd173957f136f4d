<script lang="ts">
  import Choice from '../kit/Choice.svelte';
  import Select from '../kit/Select.svelte';

  interface Props {
    identity: 'identified' | 'deidentified';
    ruleId: string;
    rules: readonly { ruleId: string; name: string }[];
  }
  let { identity = $bindable(), ruleId = $bindable(), rules }: Props = $props();
</script>

<div class="flex flex-wrap items-end gap-3">
  <div>
    <span class="heading mb-1 block">Identity</span>
    <Choice
      label="Identity"
      bind:value={identity}
      options={[
        { value: 'identified', words: 'Kept' },
        { value: 'deidentified', words: 'De-identified' }
      ]}
      testid="identity"
    />
  </div>
  {#if identity === 'deidentified'}
    <div class="min-w-40 flex-1">
      <span class="heading mb-1 block">Rule</span>
      <Select
        label="De-identification rule"
        bind:value={ruleId}
        options={rules.map((each) => ({ value: each.ruleId, words: each.name }))}
        testid="parcel-rule"
      />
    </div>
  {/if}
</div>
