import { describe, expect, it } from 'vitest';
import { seededRandom } from '../random';
import { daysMeant } from './birthDates';
import { type Findable, wantedIn, whyDouble, whyFound } from './matching';
import { foldedName, lettersApart, nameWords, sameFirstName, initialsOf } from './names';

const person = (
  givenName: string,
  familyName: string,
  birthDate: string | null = null,
  recordNumber = ''
): Findable => ({
  kind: 'person',
  givenName,
  familyName,
  birthDate,
  recordNumber,
  species: null,
  breed: null,
  owner: null
});
const animal = (givenName: string, owner: string, recordNumber = ''): Findable => ({
  ...person(givenName, '', null, recordNumber),
  kind: 'animal',
  species: 'dog, sheepdog',
  owner
});
const found = (typed: string, patient: Findable) => whyFound(wantedIn(typed, 2026), patient);

describe('a birth date', () => {
  it.each([
    ['1987-03-14', ['1987-03-14']],
    ['14.3.1987', ['1987-03-14']],
    ['14/03/87', ['1987-03-14']],
    ['14 mar 1987', ['1987-03-14']],
    ['14 March 87', ['1987-03-14']],
    ['140387', ['1987-03-14']],
    ['14031987', ['1987-03-14']],
    ['19870314', ['1987-03-14']],
    ['3/4/2009', ['2009-04-03', '2009-03-04']],
    ['5.6.21', ['2021-06-05', '2021-05-06']],
    ['5.6.31', ['1931-06-05', '1931-05-06']],
    ['29.2.2023', []],
    ['31/31/1990', []],
    ['1004', []],
    ['marrow', []]
  ])('%s', (typed, days) => {
    expect(daysMeant(typed, 2026)).toEqual(days);
  });
});

describe('finding a patient', () => {
  const isolde = person('Isolde Élise', 'Marrowby-Sund', '1987-03-14', 'QS-1004');
  it.each([
    ['marrow'],
    ['sund isolde'],
    ['ISOLDE elise'],
    ['élise marrowby'],
    ['qs-1004'],
    ['1004'],
    ['isolde 14.3.1987'],
    ['14 mar 1987 sund'],
    ['isolde 1987']
  ])('by “%s”', (typed) => {
    expect(found(typed, isolde)).not.toBeNull();
  });
  it.each([['isolde 15.3.1987'], ['marrow quayle'], ['solde'], ['1988 isolde']])('not by “%s”', (typed) => {
    expect(found(typed, isolde)).toBeNull();
  });
  it('by a short form of the first name, and says so', () => {
    expect(found('liz pike', person('Elizabeth', 'Pike'))).toEqual({ rank: 1, why: ['liz for Elizabeth'] });
    expect(found('bob', person('Robert', 'Pike'))!.why).toEqual(['bob for Robert']);
  });
  it('by the owner, after those who are called so themselves', () => {
    const dog = animal('Bracken', 'Tilda Quarrel');
    expect(found('tilda quarrel', dog)!.why).toEqual(['owner Tilda Quarrel']);
    expect(found('tilda quarrel', dog)!.rank).toBeGreaterThan(
      found('tilda quarrel', person('Tilda', 'Quarrel'))!.rank
    );
  });
});

describe('a likely double', () => {
  const known = person('Elizabeth', 'Thornquist', '1949-02-03', 'QS-1060');
  it.each([
    [person('Elizabeth', 'Thornquist', '1949-02-03'), 'the same birth date'],
    [person('Liz', 'Thornquist', '1949-02-03'), 'a form of the first name'],
    [person('Thornquist', 'Elizabeth', '1949-02-03'), 'another order'],
    [person('Elisabeth', 'Thornqvist', '1949-02-03'), 'nearly the same'],
    [person('ELIZABETH', 'Thornquíst', null), 'not known'],
    [person('Elizabeth', 'Thornquist', '1949-03-02'), 'swapped'],
    [person('Somebody', 'Else', '2001-01-01', 'qs 1060'), 'the same number']
  ])('%j: %s', (fresh, words) => {
    expect(whyDouble(fresh, known).join(', ')).toContain(words);
  });
  it.each([
    [person('Elizabeth', 'Thornquist', '1980-07-07')],
    [person('Edda', 'Pike', '1949-02-03')],
    [animal('Elizabeth', 'Thornquist')]
  ])('is not %j', (fresh) => {
    expect(whyDouble(fresh, known)).toEqual([]);
  });
  it('of animals takes the owner too', () => {
    expect(
      whyDouble(animal('Bramble', 'Corin Dunmallow'), animal('Bramble', 'Dunmallow Corin'))
    ).toHaveLength(2);
    expect(whyDouble(animal('Bramble', 'Ewan Skerrow'), animal('Bramble', 'Corin Dunmallow'))).toEqual([]);
  });
});

describe('names', () => {
  it('fold accents and letters of their own', () => {
    expect(foldedName('Ångström-Łuk')).toBe('angstrom-luk');
    expect(nameWords('O’Brien Sørensen')).toEqual(['o', 'brien', 'sorensen']);
    expect(sameFirstName('chris', 'christopher')).toBe(true);
    expect(sameFirstName('ann', 'bob')).toBe(false);
  });
  it('are apart by what it takes to make one the other', () => {
    expect(lettersApart('quayle', 'quale')).toBe(1);
    expect(lettersApart('marrowby', 'marorwby')).toBe(1);
    expect(lettersApart('pike', 'thornquist')).toBeGreaterThan(3);
    const random = seededRandom(4).uniform;
    const letters = 'abcde';
    for (let n = 0; n < 300; n++) {
      const word = Array.from({ length: 6 }, () => letters[Math.floor(random() * 5)]).join('');
      const at = Math.floor(random() * 5);
      const dropped = word.slice(0, at) + word.slice(at + 1);
      expect(lettersApart(word, dropped)).toBe(1);
      expect(lettersApart(dropped, word)).toBe(lettersApart(word, dropped));
      expect(lettersApart(word, word)).toBe(0);
    }
  });
});

describe('initials', () => {
  it.each([
    ['person', 'Zoë Ødegård-Lühr', 'Z. Ø. L.'],
    ['person', '  nils  skerry ', 'N. S.'],
    ['person', '', ''],
    ['animal', 'Bracken', 'Bracken']
  ] as const)('of the %s “%s” are “%s”', (kind, name, initials) => {
    expect(initialsOf({ kind, name })).toBe(initials);
  });
});
