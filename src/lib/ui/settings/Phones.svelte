<script lang="ts">
  import { Smartphone, Trash2 } from '@lucide/svelte';
  import { momentWords } from '../clock';
  import Tooltip from '../kit/Tooltip.svelte';
  import { ask, attempt } from '../net/send';

  /** Phones that may send pictures in somebody's name. */
  interface Props {
    phones: readonly { phoneId: string; name: string; mine: boolean; since: string; until: string }[];
    /** Whether everybody's are listed. */
    all: boolean;
    onkept: () => void;
  }
  let { phones, all, onkept }: Props = $props();
  async function end(phoneId: string) {
    await attempt(() => ask(`/api/phones/${phoneId}`, {}, 'DELETE'));
    onkept();
  }
</script>

<section class="panel p-6" aria-labelledby="phones" data-testid="phones">
  <h2 id="phones" class="text-lead font-bold">Paired phones</h2>
  <p class="text-ink-soft mb-3">
    {all ? 'They send' : 'Yours send'} pictures to Arrivals and see nothing. They are paired in Arrivals, by a code
    on the screen. One whose pairing ends sends no more; pictures that it still holds stay on it.
  </p>
  <ul class="flex flex-col gap-1.5">
    {#each phones as each (each.phoneId)}
      <li class="border-rule flex min-h-14 items-center gap-3 rounded-lg border pl-4" data-testid="phone">
        <Smartphone size={20} class="text-ink-soft shrink-0" aria-hidden="true" />
        <span class="min-w-0 flex-1 leading-tight">
          <span class="block font-semibold">{each.mine ? 'Yours' : each.name}</span>
          <span class="text-small text-ink-soft block"
            >since {momentWords(each.since)}, until {momentWords(each.until)}</span
          >
        </span>
        <Tooltip
          words="End this pairing"
          button="flex size-11 items-center justify-center rounded-lg"
          testid="end-pairing"
          onclick={() => void end(each.phoneId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
        >
      </li>
    {:else}<li class="text-ink-soft">No phone is paired now.</li>{/each}
  </ul>
</section>
