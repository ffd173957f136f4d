<script lang="ts">
  import { PackageCheck, Send, TriangleAlert } from '@lucide/svelte';
  import type { Named } from '$core/parcel/fileNames';
  import type { PictureView } from '$core/picture/pictureView';
  import { destinationWords } from '$core/parcel/destination';
  import Select from '../kit/Select.svelte';
  import Tick from '../kit/Tick.svelte';
  import { countWords } from '../words';
  import ClaimFields from './ClaimFields.svelte';
  import IdentityFields from './IdentityFields.svelte';
  import PackingFields from './PackingFields.svelte';
  import { type ParcelDesk, type SeenDestination, asFile } from './parcelDesk.svelte';

  interface Props {
    desk: ParcelDesk;
    destinations: readonly SeenDestination[];
    rules: readonly { ruleId: string; name: string }[];
    /** What goes. */
    pictures: readonly PictureView[];
    example: readonly Named[];
    may: boolean;
    sending: boolean;
    message: string;
    onsend: () => void;
  }
  let { desk, destinations, rules, pictures, example, may, sending, message, onsend }: Props = $props();
  let more = $state(false);
  const count = $derived(pictures.length);
  const fetched = $derived(desk.destinationId === asFile);
</script>

<div class="flex flex-col gap-3">
  <div>
    <span class="heading mb-1 block">Destination</span>
    <Select
      label="Destination"
      value={desk.destinationId}
      options={[
        ...destinations.map((each) => ({
          value: each.destinationId,
          words: each.name,
          detail: `${destinationWords[each.kind]}, ${each.where}`
        })),
        { value: asFile, words: 'A file for me', detail: 'Packed here, then fetched as a ZIP' }
      ]}
      onchange={(value) => desk.choose(value)}
      testid="destination"
    />
  </div>
  {#if desk.isClaim}
    <ClaimFields {desk} {pictures} />
  {:else}
    <IdentityFields bind:identity={desk.identity} bind:ruleId={desk.ruleId} {rules} />
  {/if}
  {#if desk.isClaim}
    <p class="text-small text-ink-soft">
      They go as they are seen, with the patient’s name, number and birth date. The tracking number that comes
      back stays with each.
    </p>
  {:else if desk.isArchive ? more : true}
    <PackingFields
      packing={desk.packing}
      archive={desk.isArchive}
      identity={desk.identity}
      {example}
      onchange={(packing) => desk.change(packing)}
    />
  {:else}
    <button class="text-small min-h-11 self-start font-semibold underline" onclick={() => (more = true)}
      >Drawings and readings too</button
    >
  {/if}
  {#if desk.warns}
    <div
      class="bg-brass-wash text-brass flex items-center gap-1 rounded-lg pr-3"
      data-testid="identity-warning"
    >
      <Tick
        checked={desk.warned}
        label="I know that names go along"
        onchange={(checked) => (desk.warned = checked)}
        testid="warned"
      />
      <p class="text-small flex items-center gap-2 font-semibold">
        <TriangleAlert size={18} class="shrink-0" aria-hidden="true" />Name, number and birth date of the
        patient go along. I know it.
      </p>
    </div>
  {/if}
  <button
    class="button main text-lead min-h-13"
    onclick={onsend}
    disabled={sending || count === 0 || !may || (desk.warns && !desk.warned)}
    data-testid="send"
  >
    {#if fetched}<PackageCheck size={20} aria-hidden="true" />Pack {countWords(
        count,
        'picture',
        'pictures'
      )}{:else}<Send size={20} aria-hidden="true" />Send {countWords(count, 'picture', 'pictures')}{/if}
  </button>
  {#if message}<p role="status" class="text-small text-ink-soft font-semibold">{message}</p>{/if}
</div>
