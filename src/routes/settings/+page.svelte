<script lang="ts">
  import { superForm } from 'sveltekit-superforms';
  import { showTooth } from '$core/anatomy/teeth';
  import TopStrip from '$ui/shell/TopStrip.svelte';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  const { form, message, enhance } = superForm(data.form, { resetForm: false, invalidateAll: true });
  const choices = [
    { value: 'fdi', name: 'FDI (ISO 3950)' },
    { value: 'universal', name: 'Universal' },
    { value: 'palmer', name: 'Palmer' }
  ] as const;
</script>

<svelte:head><title>Settings · Yonder Tray</title></svelte:head>
<TopStrip />
<main class="mx-auto max-w-2xl px-6 pt-6">
  <h1 class="text-title mb-4 font-bold">Settings</h1>
  <form method="POST" use:enhance class="panel p-6">
    <fieldset disabled={!data.who!.may.changeSettings}>
      <legend class="text-lead mb-3 font-bold">Teeth are written in</legend>
      <div class="flex flex-col gap-2">
        {#each choices as { value, name } (value)}
          <label
            class="border-rule has-checked:border-coral has-checked:bg-coral-wash flex min-h-12 items-center gap-3 rounded-lg border px-4"
          >
            <input
              type="radio"
              name="notation"
              {value}
              bind:group={$form.notation}
              class="accent-ink size-5"
            />
            <span class="font-semibold">{name}</span>
            <span class="text-ink-soft ml-auto">upper right first molar: {showTooth(16, value)}</span>
          </label>
        {/each}
      </div>
      <button class="button main mt-4">Keep</button>
    </fieldset>
    {#if !data.who!.may.changeSettings}<p class="text-small text-ink-soft mt-3">
        An administrator changes this.
      </p>{/if}
    {#if $message}<p role="status" class="text-lagoon mt-3 font-semibold">{$message}</p>{/if}
  </form>
</main>
