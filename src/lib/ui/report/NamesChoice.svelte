<script lang="ts">
  import type { PaperNames } from '$core/report/paperHead';
  import Choice from '../kit/Choice.svelte';

  /** How the patient is named on a paper. */
  interface Props {
    value: PaperNames;
    small?: boolean;
    onchange: (names: PaperNames) => void;
  }
  let { value, small = false, onchange }: Props = $props();
</script>

<Choice
  label="The patient’s name"
  testid="names"
  {small}
  {value}
  options={[
    { value: 'initials', words: 'Initials' },
    { value: 'full', words: 'Full name' }
  ]}
  {onchange}
/>
