<script lang="ts">
  import type { FoundPatient } from '$core/people/foundPatient';
  import { dateWords } from '../clock';
  import Combobox from '../kit/Combobox.svelte';
  import { sendOr } from '../net/send';

  interface Props {
    typed?: string;
    /** Nobody of these. */
    except?: readonly string[];
    onpick: (person: FoundPatient, detail: string) => void;
  }
  let { typed = $bindable(''), except = [], onpick }: Props = $props();
  let found = $state.raw<FoundPatient[]>([]);

  $effect(() => {
    const words = typed.trim();
    if (words.length < 2) {
      found = [];
      return;
    }
    const url = `/api/patients?words=${encodeURIComponent(words)}`;
    void sendOr<{ patients: FoundPatient[] }>(url, { patients: [] }).then((answer) => {
      if (typed.trim() === words)
        found = answer.patients.filter(({ patientId }) => !except.includes(patientId));
    });
  });
  const detailOf = ({ recordNumber, birthDate, why }: FoundPatient) =>
    [recordNumber, birthDate ? dateWords(birthDate) : '', ...why].filter(Boolean).join(' · ');
  function pick(patientId: string) {
    const one = found.find((each) => each.patientId === patientId);
    if (one) onpick(one, detailOf(one));
  }
</script>

<Combobox
  label="Name, number or owner"
  options={found.map((each) => ({ value: each.patientId, words: each.name, detail: detailOf(each) }))}
  bind:typed
  nothing="Nobody by that name or number."
  testid="whose"
  onchoose={pick}
/>
