<script lang="ts">
  import { toast } from 'svelte-sonner';
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
  {#each [{ label: 'The one of now', at: 'before', complete: 'current-password' }, { label: 'The new one, 10 letters at least', at: 'after', complete: 'new-password' }] as const as { label, at, complete } (at)}
    <label class="min-w-52 flex-1 font-semibold"
      ><span>{label}</span>
      <input
        type="password"
        autocomplete={complete}
        class="border-rule bg-paper mt-1 min-h-11 w-full rounded-lg border px-3 font-normal"
        value={at === 'before' ? before : after}
        oninput={(event) => {
          if (at === 'before') before = event.currentTarget.value;
          else after = event.currentTarget.value;
        }}
        data-testid="password-{at}"
      /></label
    >
  {/each}
  <button class="button" disabled={before === '' || after === ''} data-testid="password-keep"
    >Change it</button
  >
</form>
