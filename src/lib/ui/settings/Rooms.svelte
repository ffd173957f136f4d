<script lang="ts">
  import { type PedalAct, type Pedal, isPedalKey, pedalActWords, pedalActs } from '$core/visit/pedal';
  import type { Trade } from '$core/tray/pattern';
  import Choice from '../kit/Choice.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';
  import { tradeWords } from '../words';

  interface RoomSettings {
    roomId: string;
    name: string;
    trade: Trade;
    usualPattern: string | null;
    opensArmed: boolean;
    pedal: Pedal;
    patterns: { id: string; name: string }[];
  }
  let { rooms, mayChange, onkept }: { rooms: RoomSettings[]; mayChange: boolean; onkept: () => void } =
    $props();
  const none = 'none';
  let adding = $state(false);
  let closing = $state(false);
  let newName = $state('');
  let newTrade = $state<Trade>('teeth');
  // svelte-ignore state_referenced_locally
  let roomId = $state(rooms[0]?.roomId ?? '');
  const room = $derived(rooms.find((each) => each.roomId === roomId) ?? rooms.at(0) ?? null);
  let called = $derived(room?.name ?? '');

  async function keep(changes: Partial<RoomSettings>) {
    const { name, usualPattern, opensArmed, pedal } = { ...room!, ...changes };
    await attempt(() => ask(`/api/rooms/${room!.roomId}`, { name, usualPattern, opensArmed, pedal }));
    onkept();
  }
  async function rename(event: SubmitEvent) {
    event.preventDefault();
    await keep({ name: called.trim() });
  }
  async function add(event: SubmitEvent) {
    event.preventDefault();
    await attempt(async () => {
      const made = await ask<{ roomId: string }>('/api/rooms', { name: newName, trade: newTrade });
      [roomId, newName, adding] = [made.roomId, '', false];
    });
    onkept();
  }
  async function close() {
    closing = false;
    await attempt(() => ask(`/api/rooms/${room!.roomId}`, {}, 'DELETE'));
    onkept();
  }
  /** The pedal's own key is taken by stepping on it while the field has the focus. */
  function step(event: KeyboardEvent, act: PedalAct) {
    if (event.key === 'Tab' || event.key === 'Escape') return;
    event.preventDefault();
    if (!isPedalKey(event.key) && event.key !== 'Backspace' && event.key !== 'Delete') return;
    const others = Object.fromEntries(
      Object.entries(room!.pedal).filter(([of, key]) => of !== act && key !== event.key)
    );
    const cleared = event.key === 'Backspace' || event.key === 'Delete';
    void keep({ pedal: cleared ? others : { ...others, [act]: event.key } });
  }
</script>

<section class="panel p-6" aria-labelledby="rooms">
  <div class="mb-3 flex flex-wrap items-center gap-4">
    <h2 id="rooms" class="text-lead font-bold">Rooms</h2>
    <div class="w-48">
      <Select
        label="Room"
        bind:value={() => room?.roomId ?? '', (chosen) => (roomId = chosen)}
        testid="settings-room"
        options={rooms.map((each) => ({ value: each.roomId, words: each.name }))}
      />
    </div>
    {#if mayChange}
      <span class="flex-1"></span>
      <button class="button px-4" onclick={() => (adding = true)} data-testid="add-room">Add a room</button>
      <button class="button px-4" onclick={() => (closing = true)} data-testid="close-room"
        >Close this room</button
      >
    {/if}
  </div>
  {#if room}
    <div class="grid gap-6 lg:grid-cols-2">
      <div class="flex flex-col gap-3">
        {#if mayChange}
          <form class="flex items-end gap-2" onsubmit={rename}>
            <div class="flex-1">
              <TextField label="Name" bind:value={called} most={40} testid="room-name" />
            </div>
            <button
              class="button px-4"
              disabled={called.trim() === '' || called.trim() === room.name}
              data-testid="rename-room">Rename it</button
            >
          </form>
        {/if}
        <p class="text-ink-soft text-small -mt-2">
          {tradeWords[room.trade]}. A practice system finds a room by its name: rename it there too.
        </p>
        <div>
          <span class="text-small font-semibold" aria-hidden="true">Visits begin with</span>
          <Select
            label="Visits begin with"
            testid="usual-pattern"
            disabled={!mayChange}
            value={room.usualPattern ?? none}
            options={[
              { value: none, words: 'What their reason names, or what was laid last' },
              ...room.patterns.map((each) => ({ value: each.id, words: each.name }))
            ]}
            onchange={(id) => keep({ usualPattern: id === none ? null : id })}
          />
        </div>
        <Switch
          checked={room.opensArmed}
          disabled={!mayChange}
          words="A visit that is opened gets its device ready at once"
          testid="opens-armed"
          onchange={(opensArmed) => keep({ opensArmed })}
        />
      </div>
      <fieldset disabled={!mayChange}>
        <legend class="text-small font-semibold">The pedal: put the cursor into a field and step on it</legend
        >
        <div class="mt-1 grid grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1.5">
          {#each pedalActs as act (act)}
            <label for="pedal-{act}">{pedalActWords[act]}</label>
            <input
              id="pedal-{act}"
              readonly
              value={room.pedal[act] ?? ''}
              placeholder="no key"
              onkeydown={(event) => step(event, act)}
              class="border-rule bg-paper min-h-11 w-32 rounded-lg border px-3 text-center font-semibold"
              data-testid="pedal-{act}"
            />
          {/each}
        </div>
      </fieldset>
    </div>
  {/if}
</section>

<Dialog bind:open={adding} title="A new room">
  <form class="flex flex-col gap-4" onsubmit={add}>
    <TextField label="Name" bind:value={newName} most={40} first testid="new-room-name" />
    <div>
      <span class="heading mb-1 block">What is done in it</span>
      <Choice
        label="What is done in it"
        bind:value={newTrade}
        options={(Object.keys(tradeWords) as Trade[]).map((value) => ({ value, words: tradeWords[value] }))}
        testid="new-room-trade"
      />
    </div>
    <button class="button main self-end" disabled={newName.trim() === ''} data-testid="keep-room"
      >Add the room</button
    >
  </form>
</Dialog>
<Dialog bind:open={closing} title="Close {room?.name}">
  <div class="flex flex-col gap-4">
    <p>No visit is opened in it any more. What was taken there stays where it is.</p>
    <div class="flex justify-end gap-2">
      <button class="button" onclick={() => (closing = false)}>Not now</button>
      <button class="button main" onclick={() => void close()} data-testid="close-room-now">Close it</button>
    </div>
  </div>
</Dialog>
