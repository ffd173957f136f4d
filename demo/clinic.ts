/** The made-up clinic. Everyone and everything here is invented. */
export const password = 'quill-sound-2';
export const otherPassword = 'lantern-cay-2';

export const people = [
  { signIn: 'mara', name: 'Mara Fennick', role: 'assistant' },
  { signIn: 'orsin', name: 'Orsin Vael', role: 'clinician' },
  { signIn: 'dell', name: 'Dell Ashgrove', role: 'front-desk' },
  { signIn: 'wren', name: 'Wren Halloway', role: 'administrator' }
] as const;

export const rooms = [
  { name: 'Teeth', trade: 'teeth' },
  { name: 'Bones', trade: 'bones' },
  { name: 'Animals', trade: 'animals' },
  { name: 'Eyes', trade: 'eyes' }
] as const;

export interface DemoPatient {
  kind?: 'animal';
  given: string;
  family: string;
  birth: string | null;
  sex: '' | 'F' | 'M' | 'O';
  record: string;
  species?: string;
  owner?: string;
  alert?: string;
}

export const patients: DemoPatient[] = [
  {
    given: 'Isolde',
    family: 'Marrowby',
    birth: '1987-03-14',
    sex: 'F',
    record: 'QS-1004',
    alert: 'Latex allergy'
  },
  { given: 'Tobin', family: 'Kestrelle', birth: '1974-11-02', sex: 'M', record: 'QS-1011' },
  { given: 'Anouk', family: 'Pellwether', birth: '2009-06-21', sex: 'F', record: 'QS-1019' },
  {
    given: 'Ruben',
    family: 'Skaldarsen',
    birth: '1961-01-30',
    sex: 'M',
    record: 'QS-1023',
    alert: 'Takes a blood thinner'
  },
  { given: 'Fenna', family: 'Oystergaard', birth: '1995-08-08', sex: 'F', record: 'QS-1031' },
  { given: 'Corin', family: 'Dunmallow', birth: '1958-12-17', sex: 'M', record: 'QS-1040' },
  { given: 'Liv', family: 'Harrowgate-Sund', birth: '2001-04-27', sex: 'F', record: 'QS-1046' },
  { given: 'Matthis', family: 'Quayle', birth: '1990-09-09', sex: 'M', record: 'QS-1052' },
  {
    kind: 'animal',
    given: 'Bramble',
    family: '',
    birth: '2021-05-01',
    sex: 'F',
    record: 'QS-A204',
    species: 'dog, sheepdog',
    owner: 'Corin Dunmallow'
  },
  {
    kind: 'animal',
    given: 'Captain Tuppence',
    family: '',
    birth: null,
    sex: 'M',
    record: 'QS-A209',
    species: 'cat',
    owner: 'The ferry Alder'
  },
  {
    kind: 'animal',
    given: 'Pippin',
    family: '',
    birth: '2016-04-12',
    sex: 'M',
    record: 'QS-A215',
    species: 'pony',
    owner: 'Fenna Oystergaard'
  },
  { given: 'Edda', family: 'Thornquist', birth: '1949-02-03', sex: 'F', record: 'QS-1060' }
];

/** Today, by room: minutes after eight, patient, length, reason. */
export const day: { room: string; at: number; patient: string; minutes: number; reason: string }[] = [
  { room: 'Teeth', at: 0, patient: 'QS-1011', minutes: 40, reason: 'Check-up, four bitewings' },
  { room: 'Teeth', at: 60, patient: 'QS-1004', minutes: 40, reason: 'Four bitewings' },
  { room: 'Teeth', at: 120, patient: 'QS-1031', minutes: 30, reason: 'Pain on biting, lower left' },
  { room: 'Teeth', at: 300, patient: 'QS-1052', minutes: 40, reason: 'First visit, bitewings' },
  { room: 'Teeth', at: 360, patient: 'QS-1060', minutes: 30, reason: 'Crown came loose' },
  { room: 'Bones', at: 30, patient: 'QS-1040', minutes: 45, reason: 'Wrist, after a fall' },
  { room: 'Bones', at: 150, patient: 'QS-1046', minutes: 30, reason: 'Spine, third follow-up' },
  { room: 'Animals', at: 0, patient: 'QS-A204', minutes: 60, reason: 'Hips, before breeding' },
  { room: 'Animals', at: 90, patient: 'QS-A209', minutes: 30, reason: 'Teeth, eats on one side' },
  { room: 'Animals', at: 330, patient: 'QS-A215', minutes: 45, reason: 'Lame, left fore fetlock' },
  { room: 'Eyes', at: 60, patient: 'QS-1023', minutes: 30, reason: 'Topography, both eyes' },
  { room: 'Eyes', at: 330, patient: 'QS-1019', minutes: 30, reason: 'Lens fitting' }
];

export const otherClinic = {
  name: 'Lantern Cay Surgery',
  patient: {
    given: 'Per',
    family: 'Isley',
    birth: '1980-05-05',
    sex: 'M',
    record: 'LC-1'
  } satisfies DemoPatient
};
