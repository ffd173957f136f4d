<script lang="ts">
  import { type Colleague, type Liking, likingWords, likings } from '$core/letter/colleague';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';

  /** Somebody whom the clinic writes to, new or known. */
  interface Props {
    open: boolean;
    colleague: Colleague | null;
    destinations: readonly { destinationId: string; name: string }[];
    onkept: (colleague: Colleague) => void;
  }
  let { open = $bindable(), colleague, destinations, onkept }: Props = $props();

  let [name, greeting, practice, address, destinationId] = $state(['', '', '', '', '']);
  let likes = $state<Liking>('paper');
  $effect(() => {
    if (!open) return;
    name = colleague?.name ?? '';
    greeting = colleague?.greeting ?? '';
    practice = colleague?.practice ?? '';
    address = colleague?.address ?? '';
    likes = colleague?.likes ?? 'paper';
    destinationId = colleague?.destinationId ?? '';
  });
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    await attempt(async () => {
      const wish = {
        colleagueId: colleague?.colleagueId ?? null,
        name,
        greeting,
        practice,
        address,
        likes,
        destinationId: likes === 'paper' ? null : destinationId || null
      };
      onkept(await ask<Colleague>('/api/colleagues', wish));
      open = false;
    });
  }
</script>

<Dialog bind:open title={colleague ? colleague.name : 'A new colleague'}>
  <form class="flex flex-col gap-3" onsubmit={keep} data-testid="colleague-form">
    <TextField label="Name" bind:value={name} most={200} first testid="colleague-name" />
    <TextField
      label="A letter begins with"
      bind:value={greeting}
      most={200}
      example="Dear Dr Wick,"
      testid="colleague-greeting"
    />
    <TextField label="Practice" bind:value={practice} most={200} testid="colleague-practice" />
    <TextField label="Address" bind:value={address} long most={600} testid="colleague-address" />
    <div class="flex items-center justify-between gap-3">
      <span class="font-semibold">Likes to get it</span>
      <Choice
        label="Likes to get it"
        small
        bind:value={likes}
        options={likings.map((value) => ({ value, words: likingWords[value] }))}
        testid="colleague-likes"
      />
    </div>
    {#if likes !== 'paper'}
      {#if destinations.length > 0}
        <Select
          label="Where it goes"
          value={destinationId}
          empty="Choose a destination"
          options={destinations.map((each) => ({ value: each.destinationId, words: each.name }))}
          onchange={(id) => (destinationId = id)}
          testid="colleague-destination"
        />
      {:else}<p class="text-ink-soft">
          No destination takes letters yet. An administrator adds a mail address or a shared folder in
          Settings.
        </p>{/if}
    {/if}
    <div class="flex justify-end gap-2">
      <button type="button" class="button" onclick={() => (open = false)}>Not now</button>
      <button class="button main" disabled={name.trim() === ''} data-testid="colleague-keep">Keep</button>
    </div>
  </form>
</Dialog>
