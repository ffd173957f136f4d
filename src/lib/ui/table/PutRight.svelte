<script lang="ts">
  import Dialog from '../kit/Dialog.svelte';
  import PutRightCard from './PutRightCard.svelte';
  import type { LightTable } from './table.svelte';

  let { table, open = $bindable() }: { table: LightTable; open: boolean } = $props();
</script>

<Dialog bind:open title="Put right" wide>
  <PutRightCard {table} ondone={() => (open = false)} />
</Dialog>
