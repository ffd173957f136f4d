<script lang="ts">
  import { Switch } from 'bits-ui';

  interface Props {
    checked: boolean;
    words: string;
    disabled?: boolean;
    testid?: string;
    onchange?: (checked: boolean) => void;
  }
  let { checked = $bindable(), words, disabled = false, testid, onchange }: Props = $props();
  const id = $props.id();
</script>

<div class="flex min-h-11 items-center gap-3">
  <Switch.Root
    {id}
    bind:checked
    {disabled}
    onCheckedChange={onchange}
    data-testid={testid}
    aria-labelledby="{id}-words"
    class="border-ink-soft bg-well data-[state=checked]:border-ink data-[state=checked]:bg-ink relative h-7 w-12 shrink-0 rounded-full border-2"
  >
    <Switch.Thumb
      class="bg-sheet block size-5 translate-x-0.5 rounded-full shadow data-[state=checked]:translate-x-5"
    />
  </Switch.Root>
  <label id="{id}-words" for={id} class="font-semibold">{words}</label>
</div>
