<script lang="ts">
  import { onMount } from 'svelte';
  import { Camera, Check, CloudOff, RotateCcw, Send, Trash2 } from '@lucide/svelte';
  import TextField from '$ui/kit/TextField.svelte';
  import { Refused, send } from '$ui/net/send';
  import { type Pairing, PhoneBox } from '$ui/phone/phoneBox.svelte';
  import { countWords } from '$ui/words';

  const box = new PhoneBox();
  let code = $state('');
  let problem = $state('');
  let taken = $state.raw<{ file: File; url: string } | null>(null);
  let title = $state('');
  let remark = $state('');
  let picker = $state<HTMLInputElement>();
  let pairingAnew = $state(false);
  const asksCode = $derived(box.pairing === null || box.held === 'pairing-over' || pairingAnew);
  const clock = new Intl.DateTimeFormat('en-GB', { weekday: 'short', hour: '2-digit', minute: '2-digit' });

  onMount(() => {
    const stop = box.start();
    // Where the page is not served securely there is no worker; then it works while it stays open.
    if ('serviceWorker' in navigator)
      void navigator.serviceWorker
        .register('/service-worker.js', { scope: '/phone', type: 'module' })
        .catch(() => {});
    const shown = location.hash.slice(1);
    if (shown !== '') {
      history.replaceState(null, '', '/phone');
      void pair(shown);
    }
    return stop;
  });

  async function pair(with_: string) {
    problem = '';
    try {
      box.paired(await send<Pairing>('POST', '/phone/v1/pair', { code: with_ }));
      code = '';
      pairingAnew = false;
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      problem = `${error.sentence} ${error.next}`;
    }
  }

  function take(files: FileList | null) {
    const file = files?.[0];
    if (!file) return;
    if (taken) URL.revokeObjectURL(taken.url);
    taken = { file, url: URL.createObjectURL(file) };
  }
  async function sendTaken() {
    const { file, url } = taken!;
    await box.add(file, { title: title.trim(), remark: remark.trim(), fileName: file.name });
    URL.revokeObjectURL(url);
    taken = null;
    title = '';
    remark = '';
  }
</script>

<svelte:window ononline={() => void box.go()} />
<svelte:head>
  <title>Phone · Yonder Tray</title>
  <link rel="manifest" href="/phone.webmanifest" />
</svelte:head>
<main class="mx-auto flex min-h-dvh max-w-lg flex-col gap-4 px-4 pt-4 pb-6">
  <header class="flex items-center gap-3">
    <img src="/mark.svg" alt="" class="size-9" />
    <div class="min-w-0 flex-1 leading-tight">
      <h1 class="text-title font-bold">{box.pairing?.clinic ?? 'Yonder Tray'}</h1>
      {#if box.pairing && !asksCode}
        <p class="text-small text-ink-soft">
          {box.pairing.name}, until {clock.format(new Date(box.pairing.until))}
        </p>
      {/if}
    </div>
    {#if box.pairing && !asksCode}
      <button class="button text-small px-3" onclick={() => (pairingAnew = true)}>Pair anew</button>
    {/if}
  </header>
  {#if !box.durable}
    <p class="bg-brass-wash text-brass rounded-lg px-3 py-2 font-semibold" role="alert">
      This browser keeps nothing. Leave this page open until everything is sent.
    </p>
  {/if}

  {#if asksCode}
    <form
      class="panel flex flex-col gap-3 p-4"
      onsubmit={(event) => {
        event.preventDefault();
        void pair(code);
      }}
    >
      <h2 class="text-lead font-bold">
        {box.held === 'pairing-over' ? 'The pairing has ended' : 'Pair this phone'}
      </h2>
      <p class="text-ink-soft">
        On the clinic’s screen, under Arrivals, press <span class="text-ink font-semibold">Pair a phone</span>
        and point this phone’s camera at the code, or type it here.
        {#if box.waiting.length > 0}
          What waits here stays, and is sent then.
        {/if}
      </p>
      <label class="flex flex-col gap-1 font-semibold">
        Code
        <input
          class="border-rule bg-paper text-lead min-h-12 rounded-lg border px-3 tracking-widest uppercase"
          bind:value={code}
          autocomplete="off"
          autocapitalize="characters"
          data-testid="code"
        />
      </label>
      {#if problem}<p class="text-brass font-semibold" role="alert">{problem}</p>{/if}
      <button class="button main min-h-14" disabled={code.trim() === ''} data-testid="pair">Pair</button>
      {#if pairingAnew}
        <button class="button" type="button" onclick={() => (pairingAnew = false)}>Leave it as it is</button>
      {/if}
    </form>
  {:else if taken}
    <section class="flex flex-1 flex-col gap-3" aria-label="The picture">
      <img
        src={taken.url}
        alt="As it was taken"
        class="bg-stage max-h-[46dvh] w-full rounded-2xl object-contain"
      />
      <TextField
        label="What it is"
        bind:value={title}
        most={120}
        example="Wound, left forearm"
        testid="title"
      />
      <TextField label="Remark" bind:value={remark} long most={1000} testid="remark" />
      <div class="mt-auto flex gap-2">
        <button class="button min-h-14 flex-1" onclick={() => picker?.click()}
          ><RotateCcw size={20} aria-hidden="true" />Take again</button
        >
        <button
          class="button main text-lead min-h-14 flex-1"
          onclick={() => void sendTaken()}
          data-testid="send"><Send size={20} aria-hidden="true" />Send</button
        >
      </div>
    </section>
  {:else}
    <button
      class="button main text-title min-h-28 flex-col rounded-2xl"
      onclick={() => picker?.click()}
      data-testid="take"><Camera size={34} aria-hidden="true" />Take a picture</button
    >
  {/if}

  {#if box.held === 'unreachable'}
    <p
      class="bg-brass-wash text-brass flex items-center gap-2 rounded-lg px-3 py-2 font-semibold"
      role="status"
    >
      <CloudOff size={20} class="shrink-0" aria-hidden="true" />The clinic can’t be reached.
      {countWords(box.waiting.length, 'picture waits', 'pictures wait')} here and go by themselves.
    </p>
  {/if}
  {#if box.pictures.length > 0 && !taken}
    <ul class="flex flex-col gap-2" aria-label="Pictures of this phone" data-testid="box">
      {#each box.pictures as each (each.key)}
        <li class="panel flex items-center gap-3 p-2" data-state={each.state}>
          {#if each.preview}
            <img src={each.preview} alt="" class="bg-stage size-14 shrink-0 rounded-lg object-cover" />
          {:else}
            <span
              class="bg-lagoon-wash text-lagoon flex size-14 shrink-0 items-center justify-center rounded-lg"
              ><Check size={24} aria-hidden="true" /></span
            >
          {/if}
          <span class="min-w-0 flex-1 leading-tight">
            <span class="block truncate font-semibold">{each.title || 'Without a title'}</span>
            <span class="text-small {each.state === 'refused' ? 'text-brass' : 'text-ink-soft'} block">
              {#if each.state === 'sent'}Sent, {clock.format(new Date(each.madeAt))}
              {:else if each.state === 'sending'}Sending, {Math.round(each.share * 100)} %
              {:else if each.state === 'refused'}{each.words}
              {:else if each.userId !== box.pairing?.userId}Waits until whoever took it pairs this phone again
              {:else}Waits here since {clock.format(new Date(each.madeAt))}{/if}
            </span>
          </span>
          {#if each.state === 'refused'}
            <button
              class="button px-3"
              onclick={() => void box.remove(each.key)}
              aria-label="Take it off this phone"><Trash2 size={18} aria-hidden="true" /></button
            >
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
  <input
    bind:this={picker}
    type="file"
    accept="image/jpeg,image/png"
    capture="environment"
    class="sr-only"
    tabindex="-1"
    aria-label="The camera"
    data-testid="phone-camera"
    onchange={(event) => {
      take(event.currentTarget.files);
      event.currentTarget.value = '';
    }}
  />
</main>
