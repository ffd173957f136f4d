<script lang="ts">
  import { Plus, Trash2 } from '@lucide/svelte';
  import TextField from '../kit/TextField.svelte';
  import type { GuideDraft } from './guideDraft.svelte';

  let { draft, disabled }: { draft: GuideDraft; disabled: boolean } = $props();
  const { view, chosen } = $derived(draft);
</script>

<div class="flex flex-col gap-2">
  <ol class="flex flex-col gap-1">
    {#each view.landmarks as landmark, i (landmark.key)}
      {@const open = landmark.key === draft.landmarkKey}
      <li class="rounded-lg border {open ? 'border-coral' : 'border-rule'}" data-testid="guide-landmark-row">
        <button
          class="flex min-h-11 w-full items-center gap-3 px-3 text-left"
          aria-expanded={open}
          onclick={() => (draft.landmarkKey = open ? null : landmark.key)}
          ><span class="text-ink-soft w-5 font-bold">{i + 1}</span>
          <span class="min-w-0 flex-1 truncate font-semibold">{landmark.name || 'Without a name'}</span
          ></button
        >
        {#if open && chosen}
          <fieldset class="flex min-w-0 flex-col gap-2 px-3 pb-3" {disabled}>
            <legend class="sr-only">{landmark.name}</legend>
            <TextField label="Name" bind:value={chosen.name} most={60} testid="landmark-name" />
            <TextField
              label="Where it is, so that nobody has to be shown"
              bind:value={chosen.where}
              most={240}
              example="Lowest point of the outline"
              testid="landmark-where"
            />
            {#if view.landmarks.length > 1}
              <fieldset>
                <legend class="font-semibold">A line to</legend>
                <div class="mt-1 flex flex-wrap gap-1.5">
                  {#each view.landmarks as other, k (other.key)}
                    {#if other.key !== landmark.key}
                      {@const joined = draft.isJoined(landmark.key, other.key)}
                      <button
                        class="button px-3 {joined ? 'border-lagoon bg-tray' : ''}"
                        aria-pressed={joined}
                        onclick={() => draft.join(landmark.key, other.key)}>{k + 1} {other.name}</button
                      >
                    {/if}
                  {/each}
                </div>
              </fieldset>
            {/if}
            {#if !disabled}<button
                class="button quiet self-start px-2"
                onclick={() => draft.removeLandmark(landmark)}
                ><Trash2 size={18} aria-hidden="true" />Take it away</button
              >{/if}
          </fieldset>
        {/if}
      </li>
    {/each}
  </ol>
  {#if !disabled}<button
      class="button self-start"
      onclick={() => draft.addLandmark()}
      data-testid="add-landmark"><Plus size={18} aria-hidden="true" />Add a landmark</button
    >{/if}
</div>
