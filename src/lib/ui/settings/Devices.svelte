<script lang="ts">
  import { deviceKindWords } from '$core/devices/deviceKind';
  import { again } from '../net/going';
  import { clockWords, dayWords } from '../clock';
  import Dialog from '../kit/Dialog.svelte';
  import Select from '../kit/Select.svelte';
  import TextField from '../kit/TextField.svelte';
  import { ask, attempt } from '../net/send';

  interface Props {
    devices: {
      deviceId: string;
      name: string;
      kind: string;
      room: string;
      lastHeard: string;
      opensWith: string | null;
      roomId: string;
      retiredAt: string | null;
    }[];
    /** The clinic's own looks. */
    looks: { lookId: string; name: string }[];
    rooms: { roomId: string; name: string }[];
    mayChange: boolean;
  }
  let { devices, rooms, looks, mayChange }: Props = $props();

  const nothing = 'none';
  // svelte-ignore state_referenced_locally
  let roomId = $state(rooms[0]?.roomId ?? '');
  let replaces = $state(nothing);
  let given = $state<{ code: string; expiresAt: string; room: string } | null>(null);

  const openWith = (deviceId: string, look: string) =>
    attempt(async () => {
      const lookId = look === nothing ? null : look;
      await ask(`/api/devices/${deviceId}`, { kind: 'opens-with', lookId });
      await again('yonder:devices');
    });

  type Seen = Props['devices'][number];
  let changing = $state.raw<Seen | null>(null);
  let name = $state('');
  let stands = $state('');
  function change(device: Seen) {
    changing = device;
    [name, stands] = [device.name, device.roomId];
  }
  const set = (wish: object) =>
    attempt(async () => {
      await ask(`/api/devices/${changing!.deviceId}/settings`, wish);
      changing = null;
      await again('yonder:devices');
    });

  async function makeCode() {
    const wish = { roomId, replaces: replaces === nothing ? null : replaces };
    await attempt(async () => {
      const made = await ask<{ code: string; expiresAt: string }>('/api/enrolments', wish);
      given = { ...made, room: rooms.find((room) => room.roomId === roomId)!.name };
    });
  }
</script>

<section class="panel p-6" aria-labelledby="devices">
  <h2 id="devices" class="text-lead mb-3 font-bold">Devices</h2>
  <ul class="flex flex-col gap-1.5">
    {#each devices as device (device.deviceId)}
      <li
        class="border-rule flex min-h-12 flex-wrap items-center gap-x-3 rounded-lg border px-4 py-1"
        data-testid="device"
      >
        <span class="font-semibold">{device.name}</span>
        <span class="text-ink-soft"
          >{deviceKindWords(device.kind)}, {device.retiredAt
            ? `retired ${dayWords(device.retiredAt)}`
            : `room ${device.room}`}</span
        >
        <span class="text-ink-soft ml-auto"
          >last heard {dayWords(device.lastHeard)} {clockWords(device.lastHeard)}</span
        >
        {#if mayChange && looks.length > 0 && !device.retiredAt}
          <div class="w-64" data-testid="opens-with">
            <Select
              label="What pictures of {device.name} open with"
              value={device.opensWith ?? nothing}
              options={[
                { value: nothing, words: 'Opens as it comes' },
                ...looks.map(({ lookId, name }) => ({ value: lookId, words: `Opens with “${name}”` }))
              ]}
              onchange={(look) => openWith(device.deviceId, look)}
            />
          </div>
        {/if}
        {#if mayChange && !device.retiredAt}
          <button
            class="button px-3"
            aria-label="Change {device.name}"
            onclick={() => change(device)}
            data-testid="change-device">Change</button
          >
        {/if}
      </li>
    {:else}<li class="text-ink-soft">None yet.</li>{/each}
  </ul>
  {#if mayChange}
    <div class="border-rule mt-4 flex flex-wrap items-end gap-3 border-t pt-4">
      <div class="w-56">
        <span class="text-small font-semibold" aria-hidden="true">Room of the new device</span>
        <Select
          label="Room of the new device"
          bind:value={roomId}
          options={rooms.map((room) => ({ value: room.roomId, words: room.name }))}
        />
      </div>
      <div class="w-72">
        <span class="text-small font-semibold" aria-hidden="true">In place of</span>
        <Select
          label="In place of"
          bind:value={replaces}
          options={[
            { value: nothing, words: 'No other device' },
            ...devices.map((device) => ({
              value: device.deviceId,
              words: device.name,
              detail: device.retiredAt ? 'retired' : device.room
            }))
          ]}
        />
      </div>
      <button class="button px-4" onclick={makeCode}>Make a code for it</button>
      {#if given}
        <p class="basis-full" role="status">
          <strong class="text-title tracking-widest tabular-nums" data-testid="code">{given.code}</strong>
          <span class="text-ink-soft ml-3"
            >Enter it at the device. It works once, for room {given.room}, until {clockWords(
              given.expiresAt
            )}.</span
          >
        </p>
      {/if}
    </div>
  {/if}
</section>

<Dialog
  bind:open={() => changing !== null, (open) => open || (changing = null)}
  title="Change {changing?.name ?? 'the device'}"
>
  {#if changing}
    <form
      class="flex flex-col gap-4"
      onsubmit={(event) => {
        event.preventDefault();
        void set({ act: 'set', name, roomId: stands });
      }}
    >
      <TextField label="Name" bind:value={name} most={60} first testid="device-name" />
      <div>
        <span class="heading mb-1 block">Room</span>
        <Select
          label="Room of the device"
          bind:value={stands}
          options={rooms.map((room) => ({ value: room.roomId, words: room.name }))}
          testid="device-room"
        />
      </div>
      <button class="button main self-end" disabled={name.trim() === ''} data-testid="keep-device"
        >Keep it</button
      >
    </form>
    <div class="border-rule mt-4 flex items-center gap-4 border-t pt-4">
      <p class="text-ink-soft text-small flex-1">
        A device that is retired is not let in any more: let it send first what it still holds. A code for its
        place brings it back.
      </p>
      <button class="button px-4" onclick={() => void set({ act: 'retire' })} data-testid="retire-device"
        >Retire it</button
      >
    </div>
  {/if}
</Dialog>
