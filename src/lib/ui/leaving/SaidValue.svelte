<script lang="ts">
  import { misfit } from '$core/dicom/said';
  import { ask, attempt } from '../net/send';

  interface Props {
    pictureId: string;
    tag: string;
    name: string;
    /** What stands there now, values parted by a backslash. */
    text: string;
    /** The value was kept, or given up. */
    ondone: (kept: boolean) => void;
  }
  let { pictureId, tag, name, text, ondone }: Props = $props();
  // svelte-ignore state_referenced_locally
  let typed = $state(text);
  // svelte-ignore state_referenced_locally
  const before = typed;
  const wrong = $derived(misfit({ tag, text: typed }));
  let over = false;

  /** @param meant whether it was asked for: leaving an empty field adds nothing */
  async function keep(meant: boolean) {
    if (over || wrong) return;
    over = true;
    if (typed === before && !(meant && before === '')) return ondone(false);
    const kept = await attempt(() => ask(`/api/pictures/${pictureId}/said`, { tag, text: typed }));
    over = kept;
    if (kept) ondone(true);
  }

  function giveUp() {
    over = true;
    ondone(false);
  }
</script>

<!-- svelte-ignore a11y_autofocus -->
<input
  class="border-lagoon bg-paper min-h-11 w-full rounded-lg border-2 px-2"
  aria-label={name}
  aria-invalid={wrong !== null}
  aria-describedby={wrong ? 'said-wrong' : undefined}
  bind:value={typed}
  autofocus
  onkeydown={(event) => {
    if (event.key === 'Enter') void keep(true);
    if (event.key !== 'Escape') return;
    // The dialog stays: what is given up is this value.
    event.preventDefault();
    event.stopPropagation();
    giveUp();
  }}
  onblur={() => void keep(false)}
  data-testid="said-value"
/>
{#if wrong}<span
    id="said-wrong"
    class="text-brass mt-1.5 block font-semibold"
    role="alert"
    data-testid="said-wrong">{wrong}</span
  >{/if}
