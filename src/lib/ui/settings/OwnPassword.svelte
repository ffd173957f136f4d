<script lang="ts">
  import { toast } from 'svelte-sonner';
  import PasswordField from '../people/PasswordField.svelte';
  import { ask, attempt } from '../net/send';

  /** One's own password; everywhere else one is signed out by a new one. */
  let [before, after] = $state(['', '']);
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    if (!(await attempt(() => ask('/api/password', { before, after })))) return;
    [before, after] = ['', ''];
    toast.success('It is your password from now on. Everywhere else you are signed out.');
  }
</script>

<form class="panel mt-4 flex flex-wrap items-end gap-3 p-6" onsubmit={keep} data-testid="own-password">
  <h2 class="text-lead w-full font-bold">Your password</h2>
  <div class="min-w-52 flex-1">
    <PasswordField
      label="The one of now"
      bind:value={before}
      kind="current-password"
      testid="password-before"
    />
  </div>
  <div class="min-w-52 flex-1">
    <PasswordField
      label="The new one, 10 letters at least"
      bind:value={after}
      kind="new-password"
      testid="password-after"
    />
  </div>
  <button class="button min-h-12" disabled={before === '' || after === ''} data-testid="password-keep"
    >Change it</button
  >
</form>
