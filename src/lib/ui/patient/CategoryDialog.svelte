<script lang="ts">
  import type { ComponentProps } from 'svelte';
  import Dialog from '../kit/Dialog.svelte';
  import CategoryFields from './CategoryFields.svelte';

  let { open = $bindable(), ...rest }: ComponentProps<typeof CategoryFields> & { open: boolean } = $props();
</script>

<Dialog
  bind:open
  wide
  title="Categories"
  message="What the clinic files pictures under. By hand: drag them there, or pick them and press File under. By rule: whatever fits is filed as it comes."
>
  <CategoryFields {...rest} />
</Dialog>
