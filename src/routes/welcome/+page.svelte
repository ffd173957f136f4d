<script lang="ts">
  import PasswordField from '$ui/people/PasswordField.svelte';
  import { superForm } from 'sveltekit-superforms';

  let { data } = $props();
  // svelte-ignore state_referenced_locally
  const { form, errors, message, enhance, submitting } = superForm(data.form, { resetForm: false });
</script>

<svelte:head><title>Welcome · Yonder Tray</title></svelte:head>
<main class="flex min-h-screen items-center justify-center px-8">
  <form method="POST" use:enhance class="panel w-100 p-8">
    <div class="mb-4 flex items-center gap-3">
      <img src="/mark.svg" alt="" class="size-10" />
      <h1 class="text-title font-bold">Welcome, {data.invited.name}</h1>
    </div>
    {#if $message}<p role="alert" class="bg-brass-wash text-brass mb-4 rounded-lg px-3 py-2 font-semibold">
        {$message}
      </p>{/if}
    <p class="mb-4">
      You sign in as <strong data-testid="sign-in-name">{data.invited.signInName}</strong>. Choose a password
      of at least {data.least} letters; nobody else gets to know it.
    </p>
    <div class="mb-6">
      <PasswordField
        label="Password"
        name="password"
        bind:value={$form.password}
        kind="new-password"
        error={$errors.password?.[0]}
        testid="new-password"
      />
    </div>
    <button class="button main text-lead min-h-12 w-full" disabled={$submitting}>Keep it</button>
  </form>
</main>
