<script lang="ts">
  import { untrack } from 'svelte';
  import { goto } from '$app/navigation';
  import { page } from '$app/state';
  import type { FoundPatient } from '$core/people/foundPatient';
  import { dateWords } from '../clock';
  import Combobox from '../kit/Combobox.svelte';
  import Dialog from '../kit/Dialog.svelte';
  import { foundParts, hrefOf, settingsParts } from '../settings/parts';
  import { Refused, send } from '../net/send';

  interface Found {
    value: string;
    words: string;
    detail: string;
  }
  let { open = $bindable(false) }: { open?: boolean } = $props();
  let typed = $state('');
  let patients = $state.raw<Found[]>([]);
  let message = $state('');
  let asking = $state(false);
  const places: Found[] = [
    { value: '/', words: 'Today', detail: 'The day by room' },
    { value: '/arrivals', words: 'Arrivals', detail: 'What came in and belongs to nobody yet' },
    { value: '/pictures', words: 'Find pictures', detail: 'Of all charts, by place, kind and day' },
    { value: '/letters', words: 'Letters', detail: 'What they begin with, and whom they go to' },
    { value: '/patterns', words: 'Patterns', detail: 'What is taken, and in which order' },
    { value: '/retakes', words: 'Retakes', detail: 'How often and why pictures were taken again' },
    { value: '/settings', words: 'Settings', detail: 'People, rooms, papers, what was changed' },
    { value: '/audit', words: 'Audit', detail: 'Who saw, changed and sent what' }
  ];
  const enter = $derived<Found[]>(
    page.data.who?.may.enterPatients && typed.trim().length > 1
      ? [
          {
            value: `/patients/new?words=${encodeURIComponent(typed.trim())}`,
            words: 'A new patient',
            detail: `Enter “${typed.trim()}”`
          }
        ]
      : []
  );
  /** Parts of the settings by what they hold: "logo" leads to the head of papers. */
  const settings = $derived<Found[]>(
    typed.trim().length < 3
      ? []
      : foundParts(
          settingsParts.filter(
            ({ href, changers }) => !href && (!changers || page.data.who?.may.changeSettings)
          ),
          typed
        ).map(({ part, by }) => ({
          value: hrefOf(part),
          words: part.words,
          detail: by ? `Settings: ${by}` : 'Settings'
        }))
  );
  const found = $derived([
    ...patients,
    ...(asking ? [] : enter),
    ...places.filter(({ words }) => words.toLowerCase().startsWith(typed.trim().toLowerCase())),
    ...settings
  ]);

  const foundOf = ({ patientId, name, recordNumber, birthDate, owner, why }: FoundPatient): Found => ({
    value: `/patients/${patientId}`,
    words: name,
    detail: [
      recordNumber,
      birthDate ? dateWords(birthDate) : '',
      owner ? `owner ${owner}` : '',
      ...why.filter((each) => !each.startsWith('owner '))
    ]
      .filter(Boolean)
      .join(' · ')
  });

  /** One question at a time; what was typed meanwhile is asked next. */
  async function look() {
    if (asking) return;
    asking = true;
    for (let asked = ''; asked !== typed.trim();) {
      asked = typed.trim();
      patients = asked === '' ? [] : await patientsFor(asked);
    }
    asking = false;
  }
  async function patientsFor(words: string): Promise<Found[]> {
    try {
      const url = `/api/patients?words=${encodeURIComponent(words)}`;
      const answer = await send<{ patients: FoundPatient[] }>('GET', url);
      message = '';
      return answer.patients.map(foundOf);
    } catch (error) {
      if (!(error instanceof Refused)) throw error;
      message = error.sentence;
      return [];
    }
  }
  $effect(() => {
    void typed;
    untrack(() => void look());
  });

  function go(href: string) {
    open = false;
    typed = '';
    void goto(href);
  }
</script>

<Dialog bind:open title="Find a patient or a place">
  <div class="p-1 pb-2">
    <Combobox
      label="Name, number or owner"
      options={found}
      bind:typed
      nothing={message || 'Nobody by that name or number.'}
      testid="search"
      autofocus
      onchoose={go}
    />
  </div>
</Dialog>
