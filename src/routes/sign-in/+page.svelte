<script lang="ts">
  import PasswordField from '$ui/people/PasswordField.svelte';
  import { superForm } from 'sveltekit-superforms';
  import { outbox } from '$ui/net/outbox.svelte';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  const { form, errors, message, enhance, submitting } = superForm(data.form, { resetForm: false });
</script>

<svelte:head><title>Sign in · Yonder Tray</title></svelte:head>
<main class="flex min-h-screen items-center justify-center gap-24 px-8">
  <div class="hidden w-96 lg:block" aria-hidden="true">
    <svg viewBox="0 0 380 300" class="w-full">
      <path d="M20 190C90 290 290 290 360 190" fill="none" class="stroke-rule" stroke-width="3" />
      <path
        d="M40 150C110 70 270 70 340 150"
        fill="none"
        class="stroke-ink-soft"
        stroke-width="1.5"
        stroke-dasharray="2 7"
      />
      {#each [{ x: 40, y: 150 }, { x: 138, y: 96 }, { x: 242, y: 96 }, { x: 340, y: 150 }] as well, i (i)}
        <rect
          x={well.x - 34}
          y={well.y - 26}
          width="68"
          height="52"
          rx="14"
          class={i === 1
            ? 'fill-sheet stroke-coral'
            : i === 0
              ? 'fill-ink stroke-ink'
              : 'fill-tray stroke-ink-soft'}
          stroke-width={i === 1 ? 4 : 1.5}
          stroke-dasharray={i > 1 ? '5 5' : undefined}
        />
      {/each}
    </svg>
    <p class="text-lead text-ink-soft mt-2 text-center">Pictures at the chair, measured, kept and sent.</p>
  </div>
  <form method="POST" use:enhance class="panel w-96 p-8">
    <div class="mb-6 flex items-center gap-3">
      <img src="/mark.svg" alt="" class="size-10" />
      <h1 class="text-title font-bold">Yonder Tray</h1>
    </div>
    {#if $message}<p role="alert" class="bg-brass-wash text-brass mb-4 rounded-lg px-3 py-2 font-semibold">
        {$message}
      </p>{/if}
    <label class="mb-4 block">
      <span class="font-semibold">Name</span>
      <input
        name="name"
        bind:value={$form.name}
        autocomplete="username"
        autocapitalize="none"
        class="border-rule bg-paper text-lead mt-1 min-h-12 w-full rounded-lg border px-3"
        aria-invalid={$errors.name ? 'true' : undefined}
      />
      {#if $errors.name}<span class="text-small text-brass">{$errors.name[0]}</span>{/if}
    </label>
    <div class="mb-6">
      <PasswordField
        label="Password"
        name="password"
        bind:value={$form.password}
        kind="current-password"
        error={$errors.password?.[0]}
      />
    </div>
    <button class="button main text-lead min-h-12 w-full" disabled={$submitting}>Sign in</button>
    {#if outbox.ofOthers > 0}<p role="status" class="text-small text-brass mt-4 font-semibold">
        {outbox.ofOthers === 1
          ? '1 change made on this machine waits'
          : `${outbox.ofOthers} changes made on this machine wait`}
        until who made them signs in again.
      </p>{/if}
  </form>
</main>
