<script lang="ts">
  import { type PedalAct, type Pedal, isPedalKey, pedalActWords, pedalActs } from '$core/visit/pedal';
  import Select from '../kit/Select.svelte';
  import Switch from '../kit/Switch.svelte';
  import { ask, attempt } from '../net/send';

  interface RoomSettings {
    roomId: string;
    name: string;
    usualPattern: string | null;
    opensArmed: boolean;
    pedal: Pedal;
    patterns: { id: string; name: string }[];
  }
  let { rooms, mayChange, onkept }: { rooms: RoomSettings[]; mayChange: boolean; onkept: () => void } =
    $props();
  const none = 'none';
  // svelte-ignore state_referenced_locally
  let roomId = $state(rooms[0]?.roomId ?? '');
  const room = $derived(rooms.find((each) => each.roomId === roomId) ?? null);

  async function keep(changes: Partial<RoomSettings>) {
    const { usualPattern, opensArmed, pedal } = { ...room!, ...changes };
    await attempt(() => ask(`/api/rooms/${roomId}`, { usualPattern, opensArmed, pedal }));
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
  <div class="mb-3 flex items-center gap-4">
    <h2 id="rooms" class="text-lead font-bold">Rooms</h2>
    <div class="w-48">
      <Select
        label="Room"
        bind:value={roomId}
        testid="settings-room"
        options={rooms.map((each) => ({ value: each.roomId, words: each.name }))}
      />
    </div>
  </div>
  {#if room}
    <div class="grid gap-6 lg:grid-cols-2">
      <div class="flex flex-col gap-3">
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
