<script lang="ts">
  import { ImageUp, Trash2 } from '@lucide/svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt, refusal } from '../net/send';

  /** What stands at the head of the clinic's papers, as it will be. */
  interface Props {
    head: { address: string; hasLogo: boolean };
    clinicName: string;
    mayChange: boolean;
    onkept: () => void;
  }
  let { head, clinicName, mayChange, onkept }: Props = $props();
  let file = $state<HTMLInputElement>();
  let shown = $state(0);
  let sending = $state(false);

  const keepAddress = async (address: string) => {
    await attempt(() => ask('/api/letterhead', { address }));
    onkept();
  };
  async function keepLogo() {
    const chosen = file?.files?.[0];
    if (file) file.value = '';
    if (!chosen) return;
    sending = true;
    await attempt(async () => {
      const answer = await fetch('/api/letterhead/logo', { method: 'POST', body: chosen });
      if (!answer.ok) throw refusal(answer.status, await answer.json().catch(() => ({})));
    });
    sending = false;
    shown += 1;
    onkept();
  }
  async function dropLogo() {
    await attempt(() => ask('/api/letterhead/logo', {}, 'DELETE'));
    onkept();
  }
</script>

<section class="panel flex flex-col gap-5 p-6" aria-labelledby="papers" data-testid="paper-head">
  <div>
    <h2 id="papers" class="text-lead font-bold">Head of papers</h2>
    <p class="text-ink-soft">Reports, results, prints and letters begin with it.</p>
  </div>
  <div
    class="border-rule flex items-start justify-end gap-3 border bg-white px-8 pt-6 pb-4 text-right text-black"
    data-testid="head-shown"
  >
    <div>
      <strong>{clinicName}</strong>
      {#if head.address}<p class="text-small whitespace-pre-line">{head.address}</p>{/if}
    </div>
    {#if head.hasLogo}
      <img
        src="/api/letterhead/logo?{shown}"
        alt="The clinic’s logo"
        class="h-14 max-w-44 object-contain"
        data-testid="logo"
      />
    {/if}
  </div>
  {#if mayChange}
    <div class="grid grid-cols-[1fr_auto] items-start gap-6">
      <TextField
        label="Address"
        value={head.address}
        long
        most={600}
        example="Street, place, telephone"
        testid="head-address"
        onchange={(address) => void keepAddress(address)}
      />
      <div class="flex flex-col gap-2">
        <span class="font-semibold">Logo</span>
        <button class="button" disabled={sending} onclick={() => file?.click()} data-testid="logo-choose"
          ><ImageUp size={18} aria-hidden="true" />{head.hasLogo ? 'Another one' : 'Choose one'}</button
        >
        <input
          type="file"
          accept="image/svg+xml,image/png,image/jpeg,image/webp"
          class="hidden"
          aria-label="The logo’s file"
          bind:this={file}
          onchange={keepLogo}
          data-testid="logo-file"
        />
        {#if head.hasLogo}
          <button class="button quiet" onclick={() => void dropLogo()} data-testid="logo-drop"
            ><Trash2 size={18} aria-hidden="true" />No logo</button
          >
        {/if}
      </div>
    </div>
    <p class="text-small text-ink-soft">
      SVG, PNG or JPEG up to 8 MB. A drawing is kept as dots, so nothing but what is seen of it stays.
    </p>
  {:else}<p class="text-small text-ink-soft">An administrator changes this.</p>{/if}
</section>
