<script lang="ts">
  import { onMount } from 'svelte';
  import { type CueKind, cue, cueKind, cueKinds, cueWords, setCueKind } from '../acquire/cue';
  import Choice from '../kit/Choice.svelte';

  /** How this machine tells those whose hands and eyes are elsewhere. Kept at the machine, as its loudness is. */
  let kind = $state<CueKind>('tones');
  onMount(() => (kind = cueKind()));
  function choose(now: CueKind) {
    setCueKind(now);
    // Heard at once: whoever chooses wants to know how loud it is.
    cue('ready');
  }
</script>

<section class="panel p-6" aria-labelledby="sounds">
  <h2 id="sounds" class="text-lead font-bold">Sounds at this machine</h2>
  <p class="text-ink-soft mb-3">
    Heard at the chair when a device is ready, a take is stored or doubted, a series is done, or a device is
    in trouble. They are kept at this machine; those at the chair can change them there too.
  </p>
  <Choice
    label="Sounds at this machine"
    bind:value={kind}
    options={cueKinds.map((value) => ({ value, words: cueWords[value] }))}
    onchange={choose}
    testid="sounds"
  />
</section>
