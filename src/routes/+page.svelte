<script lang="ts">
  import { goto } from '$app/navigation';
  import { Check, CircleDashed, ClipboardCheck, Send } from '@lucide/svelte';
  import { attempt, send } from '$ui/net/send';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import { clockWords, countWords, weekdayWords } from '$ui/words';

  let { data } = $props();
  const firstHour = 8;
  const lastHour = 16;
  const hourPx = 72;
  const now = new Date();
  const hours = Array.from({ length: lastHour - firstHour + 1 }, (_, i) => firstHour + i);
  const minutesIn = (iso: string) => {
    const at = new Date(iso);
    return (at.getHours() - firstHour) * 60 + at.getMinutes();
  };
  const nowTop = ((now.getHours() - firstHour) * 60 + now.getMinutes()) * (hourPx / 60);
  const toConfirm = $derived(data.today.appointments.filter((each) => each.toConfirm > 0));
  let opening = $state('');

  async function open(appointmentId: string, visitId: string | null) {
    opening = appointmentId;
    await attempt(async () => {
      const target =
        visitId ?? (await send<{ visitId: string }>('POST', '/api/visits', { appointmentId })).visitId;
      await goto(`/visits/${target}/acquire`);
    });
    opening = '';
  }
</script>

<svelte:head><title>Today · Yonder Tray</title></svelte:head>
<div class="flex h-screen flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <section class="panel flex min-w-0 flex-1 flex-col" aria-labelledby="day">
      <h1 id="day" class="text-title px-5 pt-3 pb-2 font-bold">Today, {weekdayWords(now)}</h1>
      <div
        class="grid shrink-0 pr-3 pl-16"
        style="grid-template-columns: repeat({data.today.rooms.length}, minmax(0, 1fr))"
      >
        {#each data.today.rooms as room (room.roomId)}
          <h2 class="border-rule text-body border-b px-2 pb-1.5 font-bold">{room.name}</h2>
        {/each}
      </div>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div
        class="relative min-h-0 flex-1 overflow-y-auto"
        tabindex="0"
        role="region"
        aria-label="The day by room"
      >
        <div class="relative" style="height: {hours.length * hourPx}px">
          {#each hours as hour, i (hour)}
            <div class="border-rule/60 absolute inset-x-0 border-t" style="top: {i * hourPx}px">
              <span class="text-small text-ink-soft pl-4">{String(hour).padStart(2, '0')}:00</span>
            </div>
          {/each}
          {#if nowTop >= 0 && nowTop <= hours.length * hourPx}
            <div
              class="border-coral absolute right-0 left-14 z-10 border-t-2"
              style="top: {nowTop}px"
              aria-hidden="true"
            ></div>
          {/if}
          <div
            class="absolute inset-y-0 right-3 left-16 grid"
            style="grid-template-columns: repeat({data.today.rooms.length}, minmax(0, 1fr))"
          >
            {#each data.today.rooms as room (room.roomId)}
              <div class="border-rule/60 relative border-l">
                {#each data.today.appointments.filter((each) => each.roomId === room.roomId) as each (each.appointmentId)}
                  <button
                    class="absolute inset-x-1.5 overflow-hidden rounded-lg border px-2.5 py-1 text-left leading-tight {each.visitId
                      ? 'border-ink-soft bg-paper'
                      : 'border-rule bg-sheet hover:bg-tray'}"
                    style="top: {(minutesIn(each.startsAt) * hourPx) / 60 + 1}px; height: {Math.max(
                      46,
                      (each.minutes * hourPx) / 60 - 3
                    )}px"
                    onclick={() => open(each.appointmentId, each.visitId)}
                    disabled={opening === each.appointmentId}
                    data-testid="appointment"
                    data-record={each.patient.recordNumber}
                  >
                    <span class="flex items-baseline gap-2">
                      <span class="truncate font-bold">{each.patient.name}</span>
                      <span class="text-small text-ink-soft ml-auto shrink-0"
                        >{clockWords(each.startsAt)}</span
                      >
                    </span>
                    <span class="flex items-center gap-2">
                      <span class="text-small text-ink-soft truncate">{each.reason}</span>
                      {#if each.visitId && each.taken + each.empty > 0}
                        <span
                          class="text-small ml-auto flex shrink-0 items-center gap-1 font-semibold {each.empty +
                            each.toConfirm >
                          0
                            ? 'text-brass'
                            : 'text-lagoon'}"
                        >
                          {#if each.empty > 0}<CircleDashed size={14} aria-hidden="true" />{each.empty} empty
                          {:else if each.toConfirm > 0}<ClipboardCheck
                              size={14}
                              aria-hidden="true"
                            />{each.toConfirm} to confirm
                          {:else}<Check size={14} aria-hidden="true" />{countWords(
                              each.taken,
                              'picture',
                              'pictures'
                            )}{/if}
                        </span>
                      {/if}
                    </span>
                  </button>
                {/each}
              </div>
            {/each}
          </div>
        </div>
      </div>
    </section>
    <aside class="flex w-80 shrink-0 flex-col gap-4 overflow-y-auto" aria-label="Waiting">
      <section class="panel p-4">
        <h2 class="text-lead mb-2 flex items-center gap-2 font-bold">
          <ClipboardCheck size={20} aria-hidden="true" />Waiting for a clinician
        </h2>
        {#each toConfirm as each (each.appointmentId)}
          <a
            href="/visits/{each.visitId}/check"
            class="hover:bg-tray flex min-h-11 items-center justify-between gap-2 rounded-lg px-2"
          >
            <span class="truncate font-semibold">{each.patient.name}</span>
            <span class="chip bg-brass-wash text-brass">{each.toConfirm} to confirm</span>
          </a>
        {:else}
          <p class="text-ink-soft">Nothing waits.</p>
        {/each}
      </section>
      <section class="panel p-4">
        <h2 class="text-lead mb-2 flex items-center gap-2 font-bold">
          <Send size={20} aria-hidden="true" />Dispatch in trouble
        </h2>
        {#each data.today.trouble as each (each.visitId)}
          <a href="/visits/{each.visitId}/file" class="hover:bg-tray block rounded-lg px-2 py-1.5">
            <span class="flex justify-between gap-2 font-semibold">
              <span class="truncate">{each.patient}</span>
              <span class="chip bg-brass-wash text-brass"
                >{each.count} {each.state === 'failed' ? 'failed' : 'waiting'}</span
              >
            </span>
            <span class="text-small text-ink-soft block">{each.reason}</span>
          </a>
        {:else}
          <p class="text-ink-soft">Everything that was sent has arrived, or is on its way.</p>
        {/each}
      </section>
      <section class="panel p-4">
        <h2 class="text-lead mb-2 font-bold">Opened lately</h2>
        {#each data.today.recent as patient (patient.patientId)}
          <a
            href="/patients/{patient.patientId}"
            class="hover:bg-tray flex min-h-11 items-center justify-between gap-2 rounded-lg px-2"
          >
            <span class="truncate font-semibold">{patient.name}</span><span class="text-small text-ink-soft"
              >{patient.recordNumber}</span
            >
          </a>
        {:else}
          <p class="text-ink-soft">Charts you open are at hand here.</p>
        {/each}
      </section>
    </aside>
  </main>
</div>
