<script lang="ts">
  import { TriangleAlert } from '@lucide/svelte';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data, form } = $props();
  const { launched, asked } = $derived(data);
</script>

<svelte:head><title>Whose chart? · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto mt-[8vh] max-w-xl px-6">
  <section class="panel flex flex-col gap-4 p-6" aria-labelledby="asked">
    {#if launched.kind === 'doubt'}
      <h1 id="asked" class="text-title flex items-center gap-3 font-bold">
        <TriangleAlert size={26} class="text-brass shrink-0" aria-hidden="true" />Nothing was opened
      </h1>
      <p class="text-lead" data-testid="doubt">{launched.why}</p>
      <p class="text-ink-soft">
        The link of the practice system says number <span class="text-ink font-semibold">{asked.number}</span
        >{#if asked.name}, <span class="text-ink font-semibold">{asked.name}</span>{/if}. Ask the patient for
        the birth date.
      </p>
      <form method="POST" class="flex flex-col gap-3">
        <label class="flex flex-col gap-1 font-semibold">
          Birth date, as the patient says it
          <!-- svelte-ignore a11y_autofocus -->
          <input
            name="born"
            class="border-rule bg-paper text-lead min-h-12 rounded-lg border px-3 font-normal"
            placeholder="day.month.year"
            autocomplete="off"
            value={form?.born ?? ''}
            autofocus
            required
            data-testid="born"
          />
        </label>
        {#if form?.sentence}<p class="text-brass font-semibold" role="alert">{form.sentence}</p>{/if}
        <button class="button main min-h-12" data-testid="confirm-born">Open the chart that fits</button>
      </form>
    {:else}
      <h1 id="asked" class="text-title font-bold">Nobody here has the number {asked.number}</h1>
      <p class="text-ink-soft">
        Look the patient up by name (Ctrl K), or
        <a
          class="text-ink font-semibold underline"
          href="/patients/new?words={encodeURIComponent(`${asked.name} ${asked.number}`.trim())}"
          >enter a new patient</a
        >.
      </p>
    {/if}
    <a class="text-small self-start font-semibold underline" href="/">To Today</a>
  </section>
</main>
