<script lang="ts">
  import { Undo2 } from '@lucide/svelte';
  import type { SettingChange } from '$core/people/settingWords';
  import { again } from '../net/going';
  import { momentWords } from '../clock';
  import { ask, attempt } from '../net/send';

  /** What was changed of the settings, by whom, and how to have it back. */
  let { changes }: { changes: readonly SettingChange[] } = $props();
  let going = $state(0);
  async function takeBack(seq: number) {
    going = seq;
    await attempt(() => ask(`/api/settings/changes/${seq}`, {}, 'DELETE'));
    await again();
    going = 0;
  }
</script>

<section class="panel p-6" aria-labelledby="changes" data-testid="setting-changes">
  <h2 id="changes" class="text-lead mb-2 font-bold">What was changed</h2>
  <ul class="flex flex-col">
    {#each changes as { seq, at, who, words, takenBack } (seq)}
      <li class="border-rule flex min-h-13 items-center gap-3 border-t py-1" data-testid="setting-change">
        <span class="min-w-0 flex-1">
          <span class="block leading-tight font-semibold break-words">{words}</span>
          <span class="text-small text-ink-soft">{who}, {momentWords(at)}</span>
        </span>
        {#if takenBack}<span class="text-ink-soft">taken back</span>
        {:else}
          <button
            class="button px-3"
            disabled={going !== 0}
            onclick={() => void takeBack(seq)}
            data-testid="take-back-setting"
            aria-label="Take back: {words}"><Undo2 size={17} aria-hidden="true" />Take back</button
          >
        {/if}
      </li>
    {:else}<li class="text-ink-soft">Nothing was changed yet.</li>{/each}
  </ul>
</section>
