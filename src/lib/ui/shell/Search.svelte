<script lang="ts">
  import { goto } from '$app/navigation';
  import { Dialog } from 'bits-ui';
  import { Refused, send } from '../net/send';
  import { dayWords } from '../words';

  interface Found {
    href: string;
    title: string;
    detail: string;
  }
  let { open = $bindable(false) }: { open?: boolean } = $props();
  let words = $state('');
  let patients = $state<Found[]>([]);
  let says = $state('');
  let at = $state(0);
  const places: Found[] = [
    { href: '/', title: 'Today', detail: 'The day by room' },
    { href: '/settings', title: 'Settings', detail: 'Tooth notation' },
    { href: '/audit', title: 'Audit', detail: 'Who saw, changed and sent what' }
  ];
  const found = $derived([
    ...patients,
    ...places.filter((place) => words === '' || place.title.toLowerCase().startsWith(words.toLowerCase()))
  ]);

  $effect(() => {
    const asked = words.trim();
    if (asked === '') {
      patients = [];
      return;
    }
    const timer = setTimeout(async () => {
      try {
        const answer = await send<{
          patients: {
            patientId: string;
            name: string;
            recordNumber: string;
            birthDate: string | null;
            owner: string | null;
          }[];
        }>('GET', `/api/patients?words=${encodeURIComponent(asked)}`);
        says = '';
        at = 0;
        patients = answer.patients.map((patient) => ({
          href: `/patients/${patient.patientId}`,
          title: patient.name,
          detail: [
            patient.recordNumber,
            patient.birthDate ? dayWords(patient.birthDate) : '',
            patient.owner ? `owner ${patient.owner}` : ''
          ]
            .filter(Boolean)
            .join(' · ')
        }));
      } catch (error) {
        if (error instanceof Refused) says = error.sentence;
      }
    }, 120);
    return () => clearTimeout(timer);
  });

  function go(target: Found | undefined) {
    if (!target) return;
    open = false;
    words = '';
    void goto(target.href);
  }

  function onKey(event: KeyboardEvent) {
    if (event.key === 'ArrowDown') at = Math.min(found.length - 1, at + 1);
    else if (event.key === 'ArrowUp') at = Math.max(0, at - 1);
    else if (event.key === 'Enter') go(found[at]);
    else return;
    event.preventDefault();
  }
</script>

<Dialog.Root bind:open>
  <Dialog.Portal>
    <Dialog.Overlay class="bg-stage/60 fixed inset-0 z-40" />
    <Dialog.Content class="panel fixed top-24 left-1/2 z-50 w-[36rem] max-w-[92vw] -translate-x-1/2 p-4">
      <Dialog.Title class="heading mb-2">Find a patient or a place</Dialog.Title>
      <input
        bind:value={words}
        onkeydown={onKey}
        aria-label="Name, number or owner"
        placeholder="Name, number or owner"
        class="border-rule bg-paper text-lead mb-3 min-h-12 w-full rounded-lg border px-3"
      />
      {#if says}<p class="text-brass px-2 py-2">{says}</p>{/if}
      <ul>
        {#each found as each, i (each.href)}
          <li>
            <a
              href={each.href}
              onclick={() => (open = false)}
              class="flex min-h-11 items-center justify-between gap-4 rounded-lg px-3 {i === at
                ? 'bg-tray'
                : ''}"
            >
              <span class="font-semibold">{each.title}</span><span class="text-small text-ink-soft"
                >{each.detail}</span
              >
            </a>
          </li>
        {/each}
      </ul>
      {#if words && patients.length === 0 && !says}<p class="text-ink-soft px-3 py-2">
          Nobody by that name or number.
        </p>{/if}
    </Dialog.Content>
  </Dialog.Portal>
</Dialog.Root>
