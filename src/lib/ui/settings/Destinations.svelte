<script lang="ts">
  import { Trash2 } from '@lucide/svelte';
  import {
    type Address,
    type DestinationKind,
    type DestinationSettings,
    destinationKinds,
    destinationWords,
    isArchive,
    isFilmPrinter,
    plainDestination,
    wantsClaims
  } from '$core/parcel/destination';
  import { formatWords } from '$core/parcel/packing';
  import { filmSizeNames, filmSizes, mediumWords, mediums } from '$core/print/film';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import TextField from '../kit/TextField.svelte';
  import Tick from '../kit/Tick.svelte';
  import Tooltip from '../kit/Tooltip.svelte';
  import IdentityFields from '../leaving/IdentityFields.svelte';
  import PackingFields from '../leaving/PackingFields.svelte';
  import { ask, attempt, send } from '../net/send';

  interface SetUp {
    destinationId: string;
    name: string;
    kind: DestinationKind;
    where: string;
    address: Address;
    settings: Omit<DestinationSettings, 'address'>;
  }
  interface Props {
    destinations: SetUp[];
    rules: { ruleId: string; name: string }[];
    onkept: () => void;
  }
  let { destinations, rules, onkept }: Props = $props();

  const empty: Record<DestinationKind, Address> = {
    dicomweb: { kind: 'dicomweb', url: '', token: '' },
    dimse: { kind: 'dimse', host: '', port: 104, called: '', calling: 'YONDER' },
    folder: { kind: 'folder', folder: '' },
    mail: { kind: 'mail', to: '' },
    claims: { kind: 'claims', url: '', token: '' },
    film: {
      kind: 'film',
      host: '',
      port: 104,
      called: '',
      calling: 'YONDER',
      sizes: ['14INX17IN', '10INX12IN'],
      medium: 'CLEAR FILM',
      colour: false
    }
  };
  let open = $state(false);
  let destinationId = $state<string | null>(null);
  let name = $state('');
  let settings = $state<DestinationSettings>(plainDestination(empty.dicomweb));
  let port = $state('104');
  let telling = $state('');
  let said = $state<Record<string, string>>({});

  function edit(of: SetUp | null) {
    destinationId = of?.destinationId ?? null;
    name = of?.name ?? '';
    settings = of ? { ...of.settings, address: { ...of.address } } : plainDestination({ ...empty.dicomweb });
    telling = settings.tell.join(', ');
    port = String('port' in settings.address ? settings.address.port : 104);
    open = true;
  }
  function chooseKind(kind: DestinationKind) {
    settings.address = { ...empty[kind] };
    if (isFilmPrinter({ kind }))
      Object.assign(settings, { identity: 'identified', byItself: false, closes: false, tell: [] });
    if (isArchive({ kind })) settings.packing = { ...settings.packing, format: 'dicom', index: false };
    if (wantsClaims({ kind })) {
      settings.packing = { ...settings.packing, format: 'jpeg', index: false, drawings: 'out' };
      Object.assign(settings, { identity: 'identified', byItself: false, closes: false });
    }
  }
  async function keep(event: SubmitEvent) {
    event.preventDefault();
    const wish = $state.snapshot(settings) as DestinationSettings;
    if ('port' in wish.address) wish.address.port = Number(port);
    wish.tell = telling
      .split(/[,;\s]+/)
      .map((each) => each.trim())
      .filter(Boolean);
    const kept = await attempt(() =>
      ask('/api/destinations', { ...(destinationId ? { destinationId } : {}), name, settings: wish })
    );
    if (!kept) return;
    open = false;
    onkept();
  }
  const drop = (id: string) =>
    attempt(async () => {
      await ask(`/api/destinations/${id}`, {}, 'DELETE');
      onkept();
    });
  const tryIt = (id: string) =>
    attempt(async () => {
      said = { ...said, [id]: 'Asking…' };
      const { words } = await send<{ words: string }>('POST', `/api/destinations/${id}/try`, {});
      said = { ...said, [id]: words };
    });
  const packingWords = ({ settings: { identity, packing, byItself } }: SetUp) =>
    `${identity === 'identified' ? 'identity kept' : 'de-identified'}, ${formatWords[packing.format]}${byItself ? ', by itself' : ''}`;
  const filmWords = ({ sizes, medium, colour }: Extract<Address, { kind: 'film' }>) =>
    `${mediumWords[medium]}, ${sizes.map((size) => filmSizes[size].words).join(', ')}, ${colour ? 'colour' : 'grey'}`;
  const example = [
    {
      who: 'Marrowby Isolde',
      number: 'QS-1004',
      date: '2026-03-01',
      what: 'Bitewing right',
      place: '16, 17',
      kind: 'radiograph'
    }
  ];
</script>

<section class="panel p-6" aria-labelledby="destinations" data-testid="destinations">
  <h2 id="destinations" class="text-lead font-bold">Destinations</h2>
  <p class="text-ink-soft mb-3">Where parcels go, each with its own identity rule, format and words.</p>
  <ul class="flex flex-col gap-1.5">
    {#each destinations as each (each.destinationId)}
      <li
        class="border-rule flex min-h-12 flex-wrap items-center gap-x-3 rounded-lg border py-1 pl-4"
        data-testid="destination-row"
      >
        <span class="font-semibold">{each.name}</span>
        <span class="text-ink-soft text-small min-w-0 flex-1 truncate">
          {destinationWords[each.kind]}, {each.where} · {each.address.kind === 'film'
            ? filmWords(each.address)
            : packingWords(each)}
        </span>
        {#if said[each.destinationId]}<span class="text-small" role="status">{said[each.destinationId]}</span
          >{/if}
        <button class="button px-3" onclick={() => void tryIt(each.destinationId)}>Try it</button>
        <button class="button px-3" onclick={() => edit(each)}>Change</button>
        <Tooltip
          words="Drop {each.name}"
          button="flex size-11 items-center justify-center rounded-lg"
          onclick={() => void drop(each.destinationId)}><Trash2 size={18} aria-hidden="true" /></Tooltip
        >
      </li>
    {:else}<li class="text-ink-soft">There is none yet: nothing can be sent.</li>{/each}
  </ul>
  <button class="button main mt-4" onclick={() => edit(null)} data-testid="new-destination"
    >New destination</button
  >
</section>

<Dialog bind:open title={destinationId ? 'Change the destination' : 'A new destination'} wide>
  <form class="-mx-1 flex max-h-[72vh] flex-col gap-4 overflow-y-auto px-1 pt-1" onsubmit={keep}>
    <TextField label="Name" bind:value={name} most={60} first testid="destination-name" />
    <div>
      <span class="heading mb-1 block">How it is reached</span>
      <Choice
        label="How it is reached"
        wraps
        value={settings.address.kind}
        options={destinationKinds.map((value) => ({ value, words: destinationWords[value] }))}
        onchange={chooseKind}
        testid="destination-kind"
      />
    </div>
    {#if settings.address.kind === 'dicomweb' || settings.address.kind === 'claims'}
      <TextField
        label="Address"
        bind:value={settings.address.url}
        most={500}
        example={settings.address.kind === 'claims'
          ? 'https://claims.example/fhir'
          : 'https://archive.example/dicomweb'}
        testid="destination-url"
      />
      <TextField label="Token, where it wants one" bind:value={settings.address.token} most={2000} />
      {#if settings.address.kind === 'dicomweb'}
        <Switch
          bind:checked={
            () => settings.wraps === 'there', (there) => (settings.wraps = there ? 'there' : 'here')
          }
          words="It wraps pictures that came without attributes by itself, where it can"
          testid="destination-wraps"
        />
      {/if}
    {:else if settings.address.kind === 'dimse' || settings.address.kind === 'film'}
      <div class="grid grid-cols-2 gap-3">
        <TextField label="Host" bind:value={settings.address.host} most={200} testid="destination-host" />
        <TextField label="Port" bind:value={port} figure testid="destination-port" />
        <TextField
          label="Its title"
          bind:value={settings.address.called}
          most={16}
          testid="destination-called"
        />
        <TextField label="Our title" bind:value={settings.address.calling} most={16} />
      </div>
      {#if settings.address.kind === 'film'}
        {@const film = settings.address}
        <div class="grid grid-cols-[1fr_auto] items-end gap-3">
          <div>
            <span class="heading mb-1 block">What is in it</span>
            <Select
              label="What is in it"
              value={film.medium}
              options={mediums.map((value) => ({ value, words: mediumWords[value] }))}
              onchange={(medium) => (film.medium = medium)}
              testid="film-medium"
            />
          </div>
          <Switch bind:checked={film.colour} words="It prints colour" testid="film-colour" />
        </div>
        <fieldset>
          <legend class="heading mb-1">Sizes that it has</legend>
          <div class="grid grid-cols-3 gap-x-3" data-testid="film-sizes">
            {#each filmSizeNames as size (size)}
              <div class="flex items-center">
                <Tick
                  checked={film.sizes.includes(size)}
                  label={filmSizes[size].words}
                  onchange={(has) =>
                    (film.sizes = filmSizeNames.filter((each) =>
                      each === size ? has : film.sizes.includes(each)
                    ))}
                /><span aria-hidden="true">{filmSizes[size].words}</span>
              </div>
            {/each}
          </div>
        </fieldset>
      {/if}
    {:else if settings.address.kind === 'folder'}
      <TextField
        label="Folder on the server"
        bind:value={settings.address.folder}
        most={500}
        testid="destination-folder"
      />
    {:else if settings.address.kind === 'mail'}
      <TextField label="Mail address" bind:value={settings.address.to} most={200} testid="destination-to" />
    {/if}
    {#if wantsClaims(settings.address)}
      <p class="text-ink-soft">
        Pictures go there as JPEG, as they are seen, with the patient’s name. What is told of each is said
        when it is sent, and the tracking number that comes back is kept.
      </p>
    {:else if isFilmPrinter(settings.address)}
      <p class="text-ink-soft">
        Films are laid out at Print, in a visit. Under each picture stands whose it is; every film is followed
        in Dispatch.
      </p>
    {:else}
      <IdentityFields
        bind:identity={settings.identity}
        bind:ruleId={() => settings.ruleId ?? rules[0]?.ruleId ?? '', (ruleId) => (settings.ruleId = ruleId)}
        {rules}
      />
      <PackingFields
        packing={settings.packing}
        archive={isArchive(settings.address)}
        identity={settings.identity}
        {example}
        onchange={(change) => (settings.packing = { ...settings.packing, ...change })}
      />
    {/if}
    {#if settings.address.kind === 'mail'}
      <div class="grid gap-3 sm:grid-cols-2">
        <TextField
          label="Words for a patient they don’t know yet"
          long
          bind:value={settings.words.fresh}
          most={4000}
        />
        <TextField label="Words for one they know" long bind:value={settings.words.known} most={4000} />
      </div>
    {/if}
    {#if !wantsClaims(settings.address) && !isFilmPrinter(settings.address)}
      <div class="grid gap-x-4 sm:grid-cols-2">
        <Switch
          bind:checked={settings.byItself}
          words="Send by itself when a visit is closed"
          testid="destination-by-itself"
        />
        <Switch
          bind:checked={settings.closes}
          words="Close a visit once all of it has arrived there"
          testid="destination-closes"
        />
      </div>
    {/if}
    {#if !isFilmPrinter(settings.address)}<TextField
        label="Told by mail once all of a parcel is there"
        bind:value={telling}
        most={1000}
        example="colleague@mainland.example, another@…"
        testid="destination-tell"
      />{/if}
    <button class="button main self-end" disabled={name.trim() === ''} data-testid="keep-destination"
      >Keep the destination</button
    >
  </form>
</Dialog>
