<script lang="ts">
  import { Copy, Pause, Play, RotateCw, Shuffle, Undo2 } from '@lucide/svelte';
  import { toast } from 'svelte-sonner';
  import { commitmentWords } from '$core/parcel/commitment';
  import type { DispatchParcel } from '$core/parcel/dispatchView';
  import { type DestinationKind, wantsClaims } from '$core/parcel/destination';
  import { stateWords } from '$core/parcel/road';
  import { type WireLine, wireText } from '$core/parcel/wire';
  import { clockWords, secondsWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import Tick from '../kit/Tick.svelte';
  import { ask, attempt, send } from '../net/send';
  import Road from './Road.svelte';

  interface Props {
    parcelId: string | null;
    /** Changes whenever there is news of it. */
    turn: number;
    destinations: readonly { destinationId: string; name: string; kind: DestinationKind }[];
    may: boolean;
    onclose: () => void;
  }
  let { parcelId, turn, destinations, may, onclose }: Props = $props();
  let opened = $state.raw<DispatchParcel | null>(null);
  let shownWire = $state<string | null>(null);
  let elsewhere = $state('');
  let warned = $state(false);
  let why = $state('');

  $effect(() => {
    void turn;
    const id = parcelId;
    if (!id) {
      [opened, shownWire, elsewhere, why, warned] = [null, null, '', '', false];
      return;
    }
    let stale = false;
    void attempt(async () => {
      const found = await send<DispatchParcel>('GET', `/api/parcels/${id}`);
      if (!stale) opened = found;
    });
    return () => (stale = true);
  });

  const act = (wish: Record<string, unknown>) => attempt(() => ask(`/api/parcels/${parcelId}`, wish));
  async function copy(lines: readonly { said: WireLine }[]) {
    await navigator.clipboard.writeText(lines.map(({ said }) => wireText(said)).join('\n\n---\n\n'));
    toast.success('Copied what was said on the wire.');
  }
  const standing = $derived(opened?.parcel.state);
  const counts = $derived(opened?.parcel.counts);
  const others = $derived(
    destinations.filter(
      (each) => each.destinationId !== opened?.parcel.destination?.destinationId && !wantsClaims(each)
    )
  );
  const rest = $derived(
    counts ? counts.packing + counts.waiting + counts.sending + counts.held + counts.failed : 0
  );
</script>

<Dialog
  bind:open={() => parcelId !== null, (is) => !is && onclose()}
  title={opened
    ? `${opened.parcel.patient?.name ?? 'Pictures'} to ${opened.parcel.destination?.name ?? 'a file'}`
    : 'Parcel'}
  wide
>
  {#if opened && counts}
    <div class="flex max-h-[70vh] flex-col gap-4 overflow-y-auto pr-1" data-testid="parcel-dialog">
      <div class="mt-3 flex flex-wrap items-center justify-between gap-3">
        <Road parcel={opened.parcel} />
        <span class="font-semibold">{stateWords(opened.parcel)}</span>
      </div>
      {#if may}
        <div class="flex flex-wrap gap-2">
          {#if counts.failed > 0 && standing === 'open'}
            <button class="button main" onclick={() => void act({ act: 'try all' })} data-testid="try-all"
              ><RotateCw size={18} aria-hidden="true" />Try again now</button
            >
          {/if}
          {#if counts.waiting > 0 && standing === 'open'}
            <button class="button" onclick={() => void act({ act: 'hold' })} data-testid="hold"
              ><Pause size={18} aria-hidden="true" />Hold</button
            >
          {/if}
          {#if standing === 'held'}
            <button class="button main" onclick={() => void act({ act: 'go on' })} data-testid="go-on"
              ><Play size={18} aria-hidden="true" />Let it go on</button
            >
          {/if}
          {#if standing !== 'withdrawn' && (rest > 0 || (opened.parcel.destination === null && !opened.parcel.fetchedAt))}
            <button class="button" onclick={() => void act({ act: 'withdraw' })} data-testid="withdraw"
              ><Undo2 size={18} aria-hidden="true" />Withdraw</button
            >
          {/if}
          {#if rest > 0 && standing !== 'withdrawn' && others.length > 0 && opened.parcel.destination?.kind !== 'film'}
            <div class="flex items-center gap-2">
              <div class="w-52">
                <Select
                  label="Another destination"
                  bind:value={elsewhere}
                  empty="Send elsewhere"
                  options={others.map((each) => ({ value: each.destinationId, words: each.name }))}
                />
              </div>
              {#if elsewhere}
                <Tick
                  checked={warned}
                  label="Names may go along; I know it"
                  onchange={(is) => (warned = is)}
                />
                <button
                  class="button"
                  onclick={async () => {
                    if (await act({ act: 'elsewhere', destinationId: elsewhere, warned })) onclose();
                  }}><Shuffle size={18} aria-hidden="true" />Send there</button
                >
              {/if}
            </div>
          {/if}
        </div>
      {/if}
      {#if opened.found.length > 0}
        <section
          class="bg-brass-wash flex flex-col gap-3 rounded-lg p-4"
          aria-labelledby="found-head"
          data-testid="found-names"
        >
          <h3 id="found-head" class="text-brass font-bold">
            {standing === 'stopped'
              ? 'Stopped: something is left that must not leave'
              : `Let go by ${opened.letGo}`}
          </h3>
          <ul class="flex flex-col gap-3">
            {#each opened.found as item (item.pictureId)}
              <li class="flex gap-3">
                {#if item.found.some(({ area }) => area)}
                  <div
                    class="relative shrink-0 bg-black"
                    style="width:200px;aspect-ratio:{item.size.width}/{item.size.height};max-height:180px"
                  >
                    <img
                      src="/api/pictures/{item.pictureId}/preview?seq=0&turn=0"
                      alt="Where it stands in {item.what}"
                      class="size-full object-fill"
                    />
                    {#each item.found as { area }, i (i)}
                      {#if area}<span
                          class="absolute border-2 border-[#e4b754]"
                          style="left:{(100 * area.left) / item.size.width}%;top:{(100 * area.top) /
                            item.size.height}%;width:{(100 * area.width) / item.size.width}%;height:{(100 *
                            area.height) /
                            item.size.height}%"
                          aria-hidden="true"
                        ></span>{/if}
                    {/each}
                  </div>
                {/if}
                <div class="min-w-0">
                  <p class="font-semibold">{item.what}</p>
                  {#each item.found as each, i (i)}
                    <p class="text-small">
                      “{each.term}” in {each.where}{each.says ? `, which reads “${each.says}”` : ''}
                    </p>
                  {/each}
                  {#if opened.parcel.visitId}
                    <a
                      class="text-small font-semibold underline"
                      href="/visits/{opened.parcel.visitId}/de-identify">Lay a veil over it in De-identify</a
                    >
                  {/if}
                </div>
              </li>
            {/each}
          </ul>
          {#if standing === 'stopped' && may}
            <div class="flex flex-wrap items-end gap-3">
              <div class="min-w-64 flex-1">
                <TextField
                  label="Why it may leave all the same"
                  bind:value={why}
                  most={300}
                  example="“long” is a word here, no name"
                  testid="let-go-why"
                />
              </div>
              <button
                class="button"
                disabled={why.trim().length < 3}
                onclick={() => void act({ act: 'let go', why })}
                data-testid="let-go">It is no name: let it go</button
              >
            </div>
          {/if}
        </section>
      {/if}
      <ul class="flex flex-col gap-1.5">
        {#each opened.items as item (item.deliveryId)}
          <li
            class="border-rule rounded-lg border px-3 py-2"
            data-testid="dispatch-item"
            data-state={item.state}
          >
            <div class="flex flex-wrap items-baseline gap-x-3">
              <span class="min-w-0 flex-1 font-semibold">{item.what}</span>
              <span
                class="text-small {item.state === 'failed'
                  ? 'text-brass font-bold'
                  : item.state === 'delivered'
                    ? 'text-lagoon font-bold'
                    : ''}"
              >
                {item.state}{item.deliveredAt ? ` ${clockWords(item.deliveredAt)}` : ''}{item.readBackAt
                  ? ', read back the same'
                  : ''}{item.state === 'delivered' ? commitmentWords[item.commitment] : ''}
              </span>
              {#if item.wire.length > 0}
                <button
                  class="button text-small px-3"
                  aria-expanded={shownWire === item.deliveryId}
                  onclick={() => (shownWire = shownWire === item.deliveryId ? null : item.deliveryId)}
                  data-testid="show-wire">On the wire</button
                >
              {/if}
            </div>
            {#if item.tracking}<p class="text-small" data-testid="tracking">
                Tracking number <strong class="select-all">{item.tracking}</strong>
              </p>{/if}
            {#if item.reason}
              <p class="text-small text-brass">
                <strong>{item.reason}</strong>
                {#if item.nextTryAt}Tried {item.attempts}x; again at {secondsWords(item.nextTryAt)}.{/if}
                {item.next}
              </p>
            {/if}
            {#if shownWire === item.deliveryId}
              <div class="mt-2 flex flex-col gap-2" data-testid="wire">
                {#each item.wire as { at, said }, i (i)}
                  <div>
                    <span class="text-small text-ink-soft">{secondsWords(at)}</span>
                    <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
                    <pre
                      class="text-small bg-paper border-rule max-h-60 overflow-auto rounded-md border p-2 font-mono break-all whitespace-pre-wrap"
                      tabindex="0"
                      aria-label="Exchange {i + 1}">{wireText(said)}</pre>
                  </div>
                {/each}
                <button class="button self-start" onclick={() => void copy(item.wire)}
                  ><Copy size={17} aria-hidden="true" />Copy it all</button
                >
              </div>
            {/if}
          </li>
        {/each}
      </ul>
    </div>
  {/if}
</Dialog>
