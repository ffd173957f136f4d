import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { type Candidate, type PersonSaid, whoseItMayBe } from './whose';

const person = (
  patientId: string,
  name: [string, string],
  birthDate: string | null,
  recordNumber: string,
  more: Partial<Candidate> = {}
): Candidate => ({
  patientId,
  kind: 'person',
  givenName: name[0],
  familyName: name[1],
  birthDate,
  recordNumber,
  sex: '',
  species: null,
  breed: null,
  owner: null,
  formerly: [],
  ...more
});
const christopher = person('kit', ['Christopher', 'Ångström'], '1971-04-09', 'QS-7', { sex: 'M' });
const liv = person('liv', ['Liv', 'Harrowgate-Sund'], '2001-04-27', 'QS-1046', {
  sex: 'F',
  formerly: [{ givenName: 'Liv', familyName: 'Sundqvist', recordNumber: 'QS-0316' }]
});
const matthis = person('matthis', ['Matthis', 'Quayle'], '1990-09-09', 'QS-1052', { sex: 'M' });
const others = [
  person('nell', ['Nell', 'Copperwaite'], '1998-11-08', 'QS-1094'),
  person('osmund', ['Osmund', 'Pike'], '1970-10-05', 'QS-1068')
];
const clinic = [christopher, liv, matthis, ...others];
const said = (changes: Partial<PersonSaid>): PersonSaid => ({
  name: '',
  otherNames: [],
  id: '',
  issuer: '',
  birthDate: '',
  sex: '',
  owner: '',
  ...changes
});
const asked = (changes: Partial<PersonSaid>, among = clinic) =>
  whoseItMayBe(said(changes), among, ['Quill Sound']);

describe('whose something is', () => {
  const spellings: [string, Partial<PersonSaid>, string, string][] = [
    ['a short first name', { name: 'Angstrom^Kit', birthDate: '1971-04-09' }, 'kit', 'Kit like Christopher'],
    ['without accents', { name: 'ANGSTROM^CHRISTOPHER', birthDate: '1971-04-09' }, 'kit', 'accents aside'],
    [
      'family name first',
      { name: 'Quayle Matthis', birthDate: '1990-09-09' },
      'matthis',
      'family name first'
    ],
    [
      'given name in the family’s place',
      { name: 'Matthis^Quayle', birthDate: '1990-09-09' },
      'matthis',
      'family name first'
    ],
    [
      'letters swapped',
      { name: 'Quyale^Matthis', birthDate: '1990-09-09' },
      'matthis',
      'spelt nearly the same'
    ],
    [
      'her name before',
      { name: 'Sundqvist^Liv', birthDate: '2001-04-27' },
      'liv',
      'earlier called Liv Sundqvist'
    ],
    [
      'half of a double name',
      { name: 'Sund^Liv', birthDate: '2001-04-27' },
      'liv',
      'part of the double name'
    ],
    ['an initial', { name: 'Quayle^M', birthDate: '1990-09-09' }, 'matthis', 'M. for Matthis'],
    [
      'its sounds beside another script',
      { name: '山田^太郎=Quayle^Matthis', birthDate: '1990-09-09' },
      'matthis',
      'the same name'
    ]
  ];
  it.each(spellings)('is told by %s, with the reason', (_, changes, patientId, reason) => {
    const { list } = asked(changes);
    expect(list[0]?.patientId).toBe(patientId);
    expect(list[0].for.join('; ')).toContain(reason);
    expect(list[0].for).toContain('the same birth date');
  });

  it('is certain by number and name, or name and birth date, and by nothing less', () => {
    expect(asked({ name: 'Quayle^Matthis', birthDate: '1990-09-09' }).certain).toBe(true);
    expect(asked({ name: 'Quayle^Matt', id: 'qs 1052' }).certain).toBe(true);
    expect(asked({ id: 'QS-1052' }).certain).toBe(false);
    expect(asked({ name: 'Quayle^Matthis' }).certain).toBe(false);
    expect(asked({ birthDate: '1990-09-09' }).list).toEqual([]);
  });

  it('is never certain where something contradicts, and says what', () => {
    const { list, certain } = asked({ name: 'Quayle^Matthis', id: 'QS-1052', birthDate: '1991-09-09' });
    expect(certain).toBe(false);
    expect(list[0]).toMatchObject({ patientId: 'matthis', against: ['born 9 Sept 1990, not 9 Sept 1991'] });
    expect(asked({ name: 'Quayle^Matthis', id: 'QS-1052', sex: 'F' }).certain).toBe(false);
  });

  it('is never certain between two of one name and birth date', () => {
    const twin = person('twin', ['Matthis', 'Quayle'], '1990-09-09', 'QS-1099');
    const both = asked({ name: 'Quayle^Matthis', birthDate: '1990-09-09' }, [...clinic, twin]);
    expect(both.list.map(({ patientId }) => patientId).sort()).toEqual(['matthis', 'twin']);
    expect(both.certain).toBe(false);
    const numbered = asked({ name: 'Quayle^Matthis', birthDate: '1990-09-09', id: 'QS-1099' }, [
      ...clinic,
      twin
    ]);
    expect(numbered.list[0].patientId).toBe('twin');
    expect(numbered.certain).toBe(true);
  });

  it('does not take another clinic’s number for its own', () => {
    const { list } = asked({ name: 'Pike^Osmund', id: 'QS-1052', issuer: 'Mainland General' });
    expect(list.map(({ patientId }) => patientId)).toEqual(['osmund']);
    expect(asked({ id: 'QS-1052', issuer: 'QUILL SOUND', name: 'Quayle^Matthis' }).certain).toBe(true);
  });

  it('knows an animal by its name and its owner’s, and not by its owner’s name alone', () => {
    const tansy = person('tansy', ['Tansy', ''], null, 'QS-A2', {
      kind: 'animal',
      species: 'dog',
      owner: 'Matthis Quayle'
    });
    const list = asked({ name: 'Quayle^Tansy', owner: 'Quayle^Matthis' }, [...clinic, tansy]).list;
    expect(list[0]).toMatchObject({ patientId: 'tansy', for: ['the same name', 'owner Matthis Quayle'] });
    // An owner who is a patient too.
    expect(
      asked({ name: 'Quayle^Matthis', birthDate: '1990-09-09' }, [...clinic, tansy]).list[0].patientId
    ).toBe('matthis');
  });

  it('keeps strangers apart: of 400 random people none is taken for one of the clinic with certainty', () => {
    const random = seededRandom(6);
    const letters = 'abcdefghijklmnoprstuvwy';
    const word = (n: number) =>
      Array.from({ length: n }, () => letters[Math.floor(random.uniform() * letters.length)]).join('');
    for (let i = 0; i < 400; i++) {
      const day = `${1940 + Math.floor(random.uniform() * 70)}-0${1 + Math.floor(random.uniform() * 9)}-1${Math.floor(random.uniform() * 9)}`;
      const { certain } = asked({ name: `${word(4 + (i % 6))}^${word(3 + (i % 4))}`, birthDate: day });
      expect(certain).toBe(false);
    }
  });
});
