<script lang="ts">
  import {
    Ban,
    CircleDashed,
    CircleDot,
    LoaderCircle,
    Moon,
    Radiation,
    TriangleAlert,
    Unplug
  } from '@lucide/svelte';
  import type { LampState } from '$core/visit/visitView';

  let { lamp, words = '' }: { lamp: LampState | 'elsewhere'; words?: string } = $props();
  const shows = {
    absent: { word: 'Not connected', icon: Unplug, tone: 'text-brass' },
    resting: { word: 'Resting', icon: Moon, tone: 'text-ink-soft' },
    arming: { word: 'Getting ready', icon: CircleDashed, tone: 'text-ink' },
    ready: { word: 'Ready', icon: CircleDot, tone: 'text-coral' },
    exposing: { word: 'Exposing', icon: Radiation, tone: 'text-coral' },
    reading: { word: 'Reading', icon: LoaderCircle, tone: 'text-ink' },
    elsewhere: { word: 'In use elsewhere', icon: Ban, tone: 'text-ink-soft' },
    faulted: { word: 'Faulted', icon: TriangleAlert, tone: 'text-brass' }
  } as const;
  const show = $derived(shows[lamp]);
  const Icon = $derived(show.icon);
</script>

<div role="status" aria-live="polite" data-testid="lamp" data-lamp={lamp}>
  <div class="flex items-center gap-3 {show.tone}">
    <Icon size={38} strokeWidth={2.4} aria-hidden="true" />
    <span class="{show.word.length > 14 ? 'text-name' : 'text-lamp'} font-bold">{show.word}</span>
  </div>
  {#if words}<p class="text-small text-brass mt-1 font-semibold">{words}</p>{/if}
</div>
