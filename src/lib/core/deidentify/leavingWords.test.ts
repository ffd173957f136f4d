import { describe, expect, it } from 'vitest';
import type { Change } from './deidentify';
import { leavingWords } from './leavingWords';

const change = (name: string, what: Change['what'], before = 'x', tag = '00100010'): Change => ({
  tag,
  name,
  what,
  before,
  after: what === 'kept' ? before : ''
});

describe('what would leave, in words', () => {
  it('says first what a person asks about first, in everyday words, each once', () => {
    const words = leavingWords([
      change('SOP Instance UID', 'replaced'),
      change('Study Instance UID', 'replaced'),
      change('Patient ID', 'replaced'),
      change('Patient Name', 'replaced'),
      change('Study Date', 'moved'),
      change('Patient Birth Date', 'moved')
    ]);
    expect(words.replaced).toEqual(['name', 'record number', 'numbers that computers know it by']);
    expect(words.moved).toEqual(['birth date', 'date of the visit']);
  });
  it('calls what it has no everyday word for by its own name, after the others, in the order of the tags', () => {
    const words = leavingWords([
      change('Station Name', 'removed', 'x', '00081010'),
      change('Operators Name', 'removed', 'x', '00081070'),
      change('Institution Name', 'emptied', 'x', '00080080')
    ]);
    expect(words.removed).toEqual(['clinic', 'station name', 'operators name']);
  });
  it('does not claim to take away what was never there', () => {
    const words = leavingWords([
      change('Patient Sex', 'emptied', ''),
      change('Accession Number', 'removed', '')
    ]);
    expect(words.removed).toEqual([]);
  });
  it('counts what stays and what is added', () => {
    const words = leavingWords([
      change('Rows', 'kept'),
      change('Columns', 'kept'),
      change('Method', 'added', '')
    ]);
    expect([words.kept, words.added]).toEqual([2, 1]);
  });
});
