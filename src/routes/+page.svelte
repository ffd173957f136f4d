<script lang="ts">
  import { again } from '$ui/net/going';
  import { language } from '$ui/writing';
  import { onMount, untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { parseDate } from '@internationalized/date';
  import {
    Check,
    ChevronLeft,
    ChevronRight,
    CircleDashed,
    ClipboardCheck,
    DoorClosed,
    Inbox,
    Send
  } from '@lucide/svelte';
  import { clockWords, minutesOfDay, todayAtClinic, weekdayWords, whenWords } from '$ui/clock';
  import DateField from '$ui/kit/DateField.svelte';
  import Tooltip from '$ui/kit/Tooltip.svelte';
  import { onNews } from '$ui/net/news';
  import { Refused, ask, attempt, send } from '$ui/net/send';
  import TopStrip from '$ui/shell/TopStrip.svelte';
  import CloseVisits from '$ui/today/CloseVisits.svelte';
  import { hoursOf } from '$ui/today/hours';
  import { countWords } from '$ui/words';

  let { data } = $props();
  type Day = typeof data.today;
  const hourPx = 72;
  const leastPx = 46;

  let renewed = $state.raw<Day | null>(null);
  const today = $derived(renewed?.day === data.today.day ? renewed : data.today);
  const isToday = $derived(today.day === today.now);

  /** One question at a time; what happens meanwhile is asked about once more. */
  let asking = false;
  let isDue = false;
  async function renew() {
    isDue = true;
    if (asking) return;
    asking = true;
    try {
      while (isDue) {
        isDue = false;
        const { day } = data.today;
        const asked = day === data.today.now ? '/api/day' : `/api/day?day=${day}`;
        renewed = await send<Day>('GET', asked);
      }
    } catch (error) {
      // The next news mend it.
      if (!(error instanceof Refused)) throw error;
    } finally {
      asking = false;
    }
  }
  onMount(() => onNews(({ topic }) => topic !== 'lamp' && topic !== 'reading' && void renew()));

  /** The line of the present moment moves on. */
  let minute = $state(new Date().toISOString());
  onMount(() => {
    const clock = setInterval(() => (minute = new Date().toISOString()), 30_000);
    return () => clearInterval(clock);
  });

  /** At midnight the page shows the new day, where it showed the old one as today. */
  $effect(() => {
    if (isToday && todayAtClinic(new Date(minute)) !== today.now)
      untrack(() => void again().then(() => (renewed = null)));
  });

  const placed = $derived(
    today.appointments.map((each) => {
      const begins = minutesOfDay(each.startsAt);
      return { ...each, begins, ends: begins + each.minutes };
    })
  );
  const hours = $derived(hoursOf(placed));
  const rows = $derived(Array.from({ length: hours.last - hours.first }, (_, i) => hours.first + i));
  const topOf = (minutes: number) => ((minutes - hours.first * 60) * hourPx) / 60;
  const nowTop = $derived(isToday ? topOf(minutesOfDay(minute)) : -1);
  /** What waits, with the station where it is done. */
  const toConfirm = $derived(
    today.appointments.flatMap((each) => [
      ...(each.toConfirm > 0 ? [{ each, at: 'check', words: `${each.toConfirm} to confirm` }] : []),
      ...(each.readings > 0
        ? [{ each, at: 'measure?waiting', words: countWords(each.readings, 'reading', 'readings') }]
        : [])
    ])
  );
  let closing = $state(false);
  /** Visits that were begun and are not closed, with what is left in them. */
  const closable = $derived(
    today.appointments
      .filter(({ visitId, closed, taken }) => visitId !== null && !closed && taken > 0)
      .map((each) => ({
        visitId: each.visitId!,
        name: each.patient.name,
        left: [
          each.empty > 0 ? `${each.empty} empty` : '',
          each.toConfirm > 0 ? `${each.toConfirm} to confirm` : '',
          each.readings > 0 ? countWords(each.readings, 'reading to confirm', 'readings to confirm') : '',
          each.unsent > 0 ? `${each.unsent} not sent` : ''
        ].filter(Boolean)
      }))
  );
  let opening = $state('');
  let line = $state<HTMLDivElement>();

  /** A day opens where it is now while there is something left of it, else at its first appointment. */
  $effect(() => {
    const [box] = [line, data.today.day];
    untrack(() => {
      const goesOn = placed.some(({ ends }) => topOf(ends) > nowTop);
      const first = topOf(Math.min(...placed.map(({ begins }) => begins)));
      const top = isToday && goesOn ? nowTop - hourPx : first - hourPx / 2;
      if (box) box.scrollTop = Number.isFinite(top) ? Math.max(0, top) : 0;
    });
  });

  const show = (day: string) =>
    goto(day === today.now ? '/' : `/?day=${day}`, { keepFocus: true, noScroll: true });
  const step = (days: number) => show(parseDate(today.day).add({ days }).toString());

  async function open(appointmentId: string, visitId: string | null) {
    opening = appointmentId;
    await attempt(async () => {
      const target = visitId ?? (await ask<{ visitId: string }>('/api/visits', { appointmentId })).visitId;
      await goto(`/visits/${target}/acquire`);
    });
    opening = '';
  }
</script>

<svelte:head><title>{isToday ? 'Today' : weekdayWords(today.day)} · Yonder Tray</title></svelte:head>
<div class="h-page flex flex-col">
  <TopStrip />
  <main class="flex min-h-0 flex-1 gap-4 px-4 pb-4">
    <section class="panel flex min-w-0 flex-1 flex-col" aria-labelledby="day">
      <div class="flex flex-wrap items-center gap-2 py-2 pr-3 pl-5">
        <h1 id="day" class="text-title mr-auto font-bold">
          {isToday ? 'Today, ' : ''}{weekdayWords(today.day)}{today.day.slice(0, 4) === today.now.slice(0, 4)
            ? ''
            : ` ${today.day.slice(0, 4)}`}
        </h1>
        {#if closable.length > 0 && data.who!.may.send}<button
            class="button px-3"
            onclick={() => (closing = true)}
            data-testid="close-visits"><DoorClosed size={18} aria-hidden="true" />Close visits</button
          >{/if}
        {#if !isToday}<button class="button px-3" onclick={() => show(today.now)} data-testid="to-today"
            >Today</button
          >{/if}
        <Tooltip words="The day before" button="button px-2.5" testid="day-before" onclick={() => step(-1)}
          ><ChevronLeft size={20} aria-hidden="true" /></Tooltip
        >
        <DateField language={language()} value={today.day} label="Day" testid="day-field" onchange={show} />
        <Tooltip words="The day after" button="button px-2.5" testid="day-after" onclick={() => step(1)}
          ><ChevronRight size={20} aria-hidden="true" /></Tooltip
        >
      </div>
      {#if today.practice}
        {@const { name, heardAt, problem, unplaced } = today.practice}
        {#if problem}
          <p class="text-small text-brass px-5 pb-1.5 font-semibold" role="status" data-testid="practice">
            {name} is away{heardAt
              ? `: this is its list of ${whenWords(heardAt)}`
              : ', and has not been heard yet'}. {problem}
          </p>
        {:else if unplaced > 0}
          <p class="text-small text-brass px-5 pb-1.5 font-semibold" role="status" data-testid="practice">
            {countWords(unplaced, 'appointment', 'appointments')} of {name} could not be placed: no such room here,
            or a number that is somebody else’s. Look there.
          </p>
        {:else if heardAt}
          <p class="text-small text-ink-soft px-5 pb-1.5" data-testid="practice">
            From {name}, {whenWords(heardAt)}
          </p>
        {/if}
      {/if}
      <div
        class="grid shrink-0 pr-3 pl-16"
        style="grid-template-columns: repeat({today.rooms.length}, minmax(0, 1fr))"
      >
        {#each today.rooms as room (room.roomId)}
          <h2 class="border-rule text-body border-b px-2 pb-1.5 font-bold">{room.name}</h2>
        {/each}
      </div>
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div
        class="relative min-h-0 flex-1 overflow-y-auto"
        tabindex="0"
        role="region"
        aria-label="The day by room"
        bind:this={line}
      >
        <div class="relative" style="height: {rows.length * hourPx}px">
          {#each rows as hour, i (hour)}
            <div class="border-rule/60 absolute inset-x-0 border-t" style="top: {i * hourPx}px">
              <span class="text-small text-ink-soft pl-4">{String(hour).padStart(2, '0')}:00</span>
            </div>
          {/each}
          {#if nowTop >= 0 && nowTop <= rows.length * hourPx}
            <div
              class="border-coral pointer-events-none absolute right-0 left-14 z-10 border-t-2"
              style="top: {nowTop}px"
              aria-hidden="true"
            ></div>
          {/if}
          <div
            class="absolute inset-y-0 right-3 left-16 grid"
            style="grid-template-columns: repeat({today.rooms.length}, minmax(0, 1fr))"
          >
            {#each today.rooms as room (room.roomId)}
              <div class="border-rule/60 relative border-l">
                {#each placed.filter((each) => each.roomId === room.roomId) as each (each.appointmentId)}
                  <!-- What a begun visit still lacks matters more than why it was made, and both do not fit. -->
                  {@const begun = each.visitId !== null && each.taken + each.empty > 0}
                  <button
                    class="absolute inset-x-1.5 overflow-hidden rounded-lg border px-2.5 py-1 text-left leading-tight {each.visitId
                      ? 'border-ink-soft bg-paper'
                      : 'border-rule bg-sheet hover:bg-tray'}"
                    style="top: {topOf(each.begins) + 1}px; height: {Math.max(
                      leastPx,
                      (each.minutes * hourPx) / 60 - 3
                    )}px"
                    onclick={() => open(each.appointmentId, each.visitId)}
                    disabled={opening === each.appointmentId}
                    title="{each.patient.name}, {each.reason}"
                    data-testid="appointment"
                    data-record={each.patient.recordNumber}
                  >
                    <span class="block truncate font-bold">{each.patient.name}</span>
                    <span class="flex items-center gap-2">
                      <span class="text-small text-ink-soft truncate"
                        ><span class="text-ink font-semibold">{clockWords(each.startsAt)}</span>
                        {begun ? '' : each.reason}</span
                      >
                      {#if begun}
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
                          {:else if each.closed}<DoorClosed size={14} aria-hidden="true" />closed
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
          {#if placed.length === 0}
            <p class="text-ink-soft absolute inset-x-16 top-28 text-center">No appointment on this day.</p>
          {/if}
        </div>
      </div>
    </section>
    <aside class="flex w-72 shrink-0 flex-col gap-4 overflow-y-auto xl:w-80" aria-label="Waiting">
      <section class="panel p-4">
        <h2 class="text-lead mb-2 flex items-center gap-2 font-bold">
          <ClipboardCheck size={20} aria-hidden="true" />Waiting for a clinician
        </h2>
        {#each toConfirm as { each, at, words } (each.appointmentId + at)}
          <a
            href="/visits/{each.visitId}/{at}"
            class="hover:bg-tray flex min-h-11 items-center justify-between gap-2 rounded-lg px-2"
          >
            <span class="truncate font-semibold">{each.patient.name}</span>
            <span class="chip bg-brass-wash text-brass">{words}</span>
          </a>
        {:else}
          <p class="text-ink-soft">Nothing waits.</p>
        {/each}
      </section>
      <a class="panel hover:bg-tray block p-4" href="/arrivals" data-testid="to-arrivals">
        <span class="flex items-center gap-2">
          <Inbox size={20} aria-hidden="true" />
          <span class="text-lead font-bold">Arrivals</span>
          {#if today.arrivals.all > 0}
            <span class="chip bg-brass-wash text-brass ml-auto">{today.arrivals.all} to sort</span>
          {:else}<span class="text-ink-soft ml-auto">All sorted</span>{/if}
        </span>
        {#if today.arrivals.latest}
          <span class="text-small text-ink-soft mt-1 block"
            >{today.arrivals.mine > 0 ? `${today.arrivals.mine} sent to you. ` : ''}The latest from {today
              .arrivals.latest}.</span
          >
        {/if}
      </a>
      <section class="panel p-4">
        <h2 class="text-lead mb-2 flex items-center gap-2 font-bold">
          <Send size={20} aria-hidden="true" />Dispatch in trouble
        </h2>
        {#each today.trouble as each (each.visitId)}
          <a
            href="/dispatch?show=trouble&visit={each.visitId}"
            class="hover:bg-tray block rounded-lg px-2 py-1.5"
          >
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
        {#each today.recent as patient (patient.patientId)}
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

<CloseVisits bind:open={closing} visits={closable} ondone={() => void renew()} />
