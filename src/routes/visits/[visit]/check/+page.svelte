<script lang="ts">
  import LightTable from '$ui/table/LightTable.svelte';

  let { data } = $props();
</script>

<LightTable station="check" notation={data.who!.notation} may={data.who!.may} />
