import type { ColleagueSaid } from '../src/lib/core/letter/colleague';

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
  { given: 'Edda', family: 'Thornquist', birth: '1949-02-03', sex: 'F', record: 'QS-1060' },
  { given: 'Signe', family: 'Ravnholt', birth: '1983-07-19', sex: 'F', record: 'QS-1064' },
  { given: 'Osmund', family: 'Pike', birth: '1970-10-05', sex: 'M', record: 'QS-1068' },
  { given: 'Tamar', family: 'Wraystone', birth: '1992-01-11', sex: 'F', record: 'QS-1071' },
  { given: 'Halvard', family: 'Ennis', birth: '1966-05-23', sex: 'M', record: 'QS-1075' },
  { given: 'Juno', family: 'Abbercorn', birth: '2014-03-02', sex: 'F', record: 'QS-1079' },
  { given: 'Ewan', family: 'Skerrow', birth: '1979-12-30', sex: 'M', record: 'QS-1083' },
  { given: 'Bryndis', family: 'Maddock', birth: '1955-08-14', sex: 'F', record: 'QS-1087' },
  { given: 'Aurel', family: 'Finch-Laird', birth: '2006-09-27', sex: 'M', record: 'QS-1090' },
  { given: 'Nell', family: 'Copperwaite', birth: '1998-11-08', sex: 'F', record: 'QS-1094' },
  {
    kind: 'animal',
    given: 'Ewe 4471',
    family: '',
    birth: '2022-03-20',
    sex: 'F',
    record: 'QS-A222',
    species: 'sheep',
    owner: 'Fenna Oystergaard'
  },
  {
    kind: 'animal',
    given: 'Nettle',
    family: '',
    birth: '2019-02-11',
    sex: 'F',
    record: 'QS-A231',
    species: 'dog, sheepdog',
    owner: 'Osmund Pike'
  },
  {
    kind: 'animal',
    given: 'Major',
    family: '',
    birth: '2011-06-01',
    sex: 'M',
    record: 'QS-A234',
    species: 'pony',
    owner: 'Bryndis Maddock'
  },
  {
    kind: 'animal',
    given: 'Whelk',
    family: '',
    birth: '2020-10-09',
    sex: 'M',
    record: 'QS-A238',
    species: 'cat',
    owner: 'Nell Copperwaite'
  },
  {
    kind: 'animal',
    given: 'Gorse',
    family: '',
    birth: '2023-04-15',
    sex: 'M',
    record: 'QS-A243',
    species: 'dog, terrier',
    owner: 'Ewan Skerrow'
  },
  {
    kind: 'animal',
    given: 'Teasel',
    family: '',
    birth: '2018-05-05',
    sex: 'F',
    record: 'QS-A246',
    species: 'goat',
    owner: 'Tamar Wraystone'
  },
  {
    kind: 'animal',
    given: 'Sable',
    family: '',
    birth: '2015-08-18',
    sex: 'F',
    record: 'QS-A250',
    species: 'dog, sheepdog',
    owner: 'Halvard Ennis'
  },
  {
    kind: 'animal',
    given: 'Biscuit',
    family: '',
    birth: '2017-12-03',
    sex: 'M',
    record: 'QS-A252',
    species: 'pony',
    owner: 'Signe Ravnholt'
  }
];

/** The islands' own time. */
export const timeZone = 'Atlantic/Reykjavik';

/** What the rooms lay beside a bone to know its size. */
export const markers = [
  { name: 'Steel ball, 10 mm', shape: 'ball', sizeMm: 10, toleranceMm: 0.02 },
  { name: 'Steel ball, 25 mm', shape: 'ball', sizeMm: 25, toleranceMm: 0.05 },
  { name: 'Brass bar, 30 mm', shape: 'bar', sizeMm: 30, toleranceMm: 0.05 },
  { name: 'Plumb line, 1000 mm', shape: 'plumb line', sizeMm: 1000, toleranceMm: 1 }
] as const;

/** Minutes after eight, by room. */
export interface DemoAppointment {
  room: string;
  at: number;
  patient: string;
  minutes: number;
  reason: string;
}

export const nextDay: DemoAppointment[] = [
  { room: 'Teeth', at: 0, patient: 'QS-1064', minutes: 40, reason: 'Check-up, four bitewings' },
  { room: 'Teeth', at: 90, patient: 'QS-1087', minutes: 30, reason: 'Sore under the bridge' },
  { room: 'Bones', at: 30, patient: 'QS-1040', minutes: 30, reason: 'Wrist, in its cast' },
  { room: 'Animals', at: 60, patient: 'QS-A246', minutes: 30, reason: 'Limps on the rocks' },
  { room: 'Eyes', at: 150, patient: 'QS-1023', minutes: 30, reason: 'Topography, left eye again' }
];

/** Under the clinic's name on its papers. */
export const clinicAddress = '2 Lantern Quay\nQuill Sound';

/** Whom the clinic writes to. */
export const colleagues: Omit<ColleagueSaid, 'destinationId'>[] = [
  {
    name: 'Dr Merrin Brackwater',
    greeting: 'Dear Merrin,',
    practice: 'Teal Harbour Bone and Joint',
    address: '9 Capstan Row\nTeal Harbour',
    likes: 'folder'
  },
  {
    name: 'Isaud Penrow',
    greeting: 'Dear colleague,',
    practice: 'Penrow Dental Surgery',
    address: '14 Ropewalk\nTeal Harbour',
    likes: 'paper'
  }
];

/** Today. */
export const day: DemoAppointment[] = [
  { room: 'Teeth', at: 0, patient: 'QS-1011', minutes: 40, reason: 'Check-up, four bitewings' },
  { room: 'Teeth', at: 60, patient: 'QS-1004', minutes: 40, reason: 'Four bitewings' },
  { room: 'Teeth', at: 120, patient: 'QS-1031', minutes: 30, reason: 'Pain on biting, lower left' },
  { room: 'Teeth', at: 300, patient: 'QS-1052', minutes: 40, reason: 'First visit, bitewings' },
  { room: 'Teeth', at: 360, patient: 'QS-1060', minutes: 30, reason: 'Crown came loose' },
  { room: 'Bones', at: 30, patient: 'QS-1040', minutes: 45, reason: 'Wrist, after a fall' },
  { room: 'Bones', at: 150, patient: 'QS-1046', minutes: 30, reason: 'Spine, third follow-up' },
  { room: 'Bones', at: 330, patient: 'QS-1068', minutes: 30, reason: 'Right ankle, twisted on a ladder' },
  { room: 'Animals', at: 0, patient: 'QS-A204', minutes: 60, reason: 'Hips, before breeding' },
  { room: 'Animals', at: 90, patient: 'QS-A209', minutes: 30, reason: 'Full mouth, eats on one side' },
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
