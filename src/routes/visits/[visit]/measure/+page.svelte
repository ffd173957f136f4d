<script lang="ts">
  import LightTable from '$ui/table/LightTable.svelte';

  let { data } = $props();
</script>

<LightTable
  visit={data.visit}
  station="measure"
  notation={data.who!.notation}
  mayConfirm={data.who!.may.confirm}
  mayChange={data.who!.may.changePictures}
/>
