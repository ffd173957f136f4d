import { describe, expect, it } from 'vitest';
import { ageInWords, paperHead } from './paperHead';

describe('ageInWords', () => {
  it('counts whole years only after the birthday', () => {
    expect(ageInWords('1987-03-14', '2026-03-13')).toBe('38 years');
    expect(ageInWords('1987-03-14', '2026-03-14')).toBe('39 years');
  });
  it('says months for the very young', () => {
    expect(ageInWords('2026-01-20', '2026-06-19')).toBe('4 months');
  });
});

describe('the head of a paper', () => {
  const patient = {
    kind: 'person' as const,
    name: 'Osmund Pike',
    recordNumber: 'QS-1068',
    birthDate: '1970-10-05',
    species: null,
    owner: null
  };
  it('names in full, or tells by initials nothing but how old', () => {
    expect(paperHead(patient, 'full', '2026-11-28', 'en-GB')).toEqual({
      title: 'Osmund Pike',
      about: 'QS-1068 · born 5 Oct 1970'
    });
    expect(paperHead(patient, 'full', '2026-11-28', 'de').about).toBe('QS-1068 · born 5. Okt. 1970');
    expect(paperHead(patient, 'initials', '2026-11-28', 'en-GB')).toEqual({
      title: 'O. P.',
      about: '56 years'
    });
  });
  it('of an animal keeps its owner to itself by initials', () => {
    const cat = {
      ...patient,
      kind: 'animal' as const,
      name: 'Plum',
      birthDate: null,
      species: 'cat',
      owner: 'Wyn Tarr'
    };
    expect(paperHead(cat, 'full', '2026-11-28', 'en-GB').about).toBe('QS-1068 · cat · Wyn Tarr');
    expect(paperHead(cat, 'initials', '2026-11-28', 'en-GB').about).toBe('cat');
  });
});
